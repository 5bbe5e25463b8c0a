import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY_MS } from '../units';
import { classPrior, HALF_LIFE_DAYS, LATELY_DAYS, mastery, notAskedLately } from './mastery';

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
    expect(mastery([piece(1, 8, -1)], flat, NOW)).toMatchObject({ effective: 0, askedAt: null });
  });
  it('judges whether there is enough before ageing, and says when nothing came lately', () => {
    const old = mastery([piece(1, 5, 60)], flat, NOW);
    expect(old.effective).toBeLessThan(1);
    expect(old.level).not.toBe('too little data');
    expect(notAskedLately(old.askedAt, NOW)).toBe(true);
    expect(notAskedLately(NOW - LATELY_DAYS * DAY_MS, NOW)).toBe(false);
    expect(notAskedLately(null, NOW)).toBe(false);
    expect(mastery([piece(1, 4.9)], flat, NOW).level).toBe('too little data');
  });
  // Beta(a, 1) and Beta(1, b) have closed forms: P(X <= x) = x^a and 1 - (1 - x)^b (NIST DLMF 8.17.7, 8.17.8).
  it('takes the level by probability: with no failure, Beta(1 + w, 1) has P(X > 0.7) = 1 - 0.7^(1 + w)', () => {
    expect(1 - 0.7 ** 6).toBeGreaterThan(0.7);
    expect(mastery([piece(1, 5)], flat, NOW).level).toBe('secure');
    // Aged to a weight of 2.375, the probability falls to exactly under the bound: log(0.3) / log(0.7) = 3.3755.
    const aged = (weight: number) => HALF_LIFE_DAYS * Math.log2(8 / weight);
    expect(mastery([piece(1, 8, aged(2.376))], flat, NOW).level).toBe('secure');
    expect(mastery([piece(1, 8, aged(2.375))], flat, NOW).level).toBe('developing');
  });
  it('is not yet where P(X < 0.6) = 1 - 0.4^(1 + w) is large, and developing in between', () => {
    expect(mastery([piece(0, 5)], flat, NOW).level).toBe('not yet');
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
    expect(alike.a + alike.b).toBe(2);
    const apart = classPrior([0, 1, 0, 1]);
    expect(apart.a + apart.b).toBe(1);
  });
  it('follows the moments in between: mean 0.5 and a variance of 1/10 are those of Beta(0.75, 0.75)', () => {
    const d = Math.sqrt(1 / 10) * Math.sqrt(3 / 4);
    const prior = classPrior([0.5 - d, 0.5 - d, 0.5 + d, 0.5 + d]);
    expect(prior.a).toBeCloseTo(0.75, 9);
    expect(prior.b).toBeCloseTo(0.75, 9);
  });
});
