import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY_MS } from '../units';
import { classPrior, HALF_LIFE_DAYS, mastery } from './mastery';

const NOW = Date.parse('2026-11-25T10:00:00Z');
const flat = { a: 1, b: 1 };
const piece = (share: number, weight: number, daysAgo = 0) => ({ share, weight, at: NOW - daysAgo * DAY_MS });

describe('mastery', () => {
  it('is the beta posterior, worked by hand: Beta(1, 1) and 7 of 10 give Beta(8, 4)', () => {
    const m = mastery([piece(0.7, 10)], flat, NOW);
    expect(m.mean).toBeCloseTo(8 / 12, 12);
    expect(m.effective).toBe(10);
    // Beta(8, 4) at 10 and 90 %; from memory of R qbeta, recomputed here by the tested quantile to 4 digits.
    expect(m.low).toBeCloseTo(0.4892, 3);
    expect(m.high).toBeCloseTo(0.8308, 3);
  });
  it('lets evidence count half after a half-life, and none from the future', () => {
    expect(mastery([piece(1, 8, HALF_LIFE_DAYS)], flat, NOW).effective).toBeCloseTo(4, 12);
    expect(mastery([piece(1, 8, -1)], flat, NOW).effective).toBe(0);
  });
  it('has a level only from four effective responses on', () => {
    expect(mastery([piece(1, 3.9)], flat, NOW).level).toBe('too little data');
    expect(mastery([piece(1, 40)], flat, NOW).level).toBe('secure');
    expect(mastery([piece(0.1, 40)], flat, NOW).level).toBe('not yet');
    expect(mastery([piece(0.65, 10)], flat, NOW).level).toBe('developing');
  });
  it('has a narrower interval with more evidence, always around the mean', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        (share, weight) => {
          const m = mastery([piece(share, weight)], { a: 2, b: 2 }, NOW);
          expect(m.low).toBeLessThan(m.mean);
          expect(m.high).toBeGreaterThan(m.mean);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('prior of the class', () => {
  it('is flat for fewer than three', () => expect(classPrior([0.2, 0.9])).toEqual(flat));
  it('has the mean of the class, and a strength between its floor and its ceiling', () => {
    const alike = classPrior([0.7, 0.7, 0.7, 0.7]);
    expect(alike.a / (alike.a + alike.b)).toBeCloseTo(0.7, 12);
    expect(alike.a + alike.b).toBe(6);
    const apart = classPrior([0, 1, 0, 1]);
    expect(apart.a + apart.b).toBe(1);
  });
  it('follows the moments in between: mean 0.5 and variance 1/20 are those of Beta(2, 2)', () => {
    const d = Math.sqrt(1 / 20) * Math.sqrt(2 / 3);
    const prior = classPrior([0.5 - d, 0.5 - d, 0.5 + d, 0.5 + d].map((v) => v));
    expect(prior.a).toBeCloseTo(prior.b, 12);
    expect(prior.a + prior.b).toBeCloseTo(0.25 / ((4 * d * d) / 3) - 1, 9);
  });
});
