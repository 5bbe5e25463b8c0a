import { describe, expect, it } from 'vitest';
import { truth } from '../../../tests/support/reference';
import { betaCdf, betaQuantile } from './beta';
import { normalTwoSided, normalUpperTail } from './normal';

interface BetaTruth {
  grid: { a: number; b: number; p: number; q: number; 'cdfAt0.6': number }[];
}

describe('beta distribution, against R qbeta and pbeta', () => {
  const { grid } = truth<BetaTruth>('beta-quantiles');
  it.each(grid.map((g) => [g.a, g.b, g.p, g] as const))('a %d, b %d, p %d', (_a, _b, _p, g) => {
    expect(Math.abs(betaQuantile(g.p, g.a, g.b) - g.q)).toBeLessThan(1e-9 * Math.max(1e-3, g.q));
    expect(Math.abs(betaCdf(0.6, g.a, g.b) - g['cdfAt0.6'])).toBeLessThan(1e-11);
  });
  it('is 0 and 1 at the ends', () => {
    expect(betaCdf(0, 2, 3)).toBe(0);
    expect(betaCdf(1, 2, 3)).toBe(1);
  });
});

describe('normal distribution', () => {
  // Abramowitz & Stegun 1964, table 26.1 (to the digits printed there), and R pnorm for the far tail.
  it.each([
    [0, 0.5],
    [1, 0.158655253931457],
    [1.96, 0.0249978951482204],
    [2.5, 0.00620966532577614],
    [3, 0.00134989803163009],
    [5, 2.86651571879194e-7],
    [10, 7.61985302416053e-24],
  ])('P(Z > %d)', (z, p) => {
    expect(normalUpperTail(z) / p).toBeCloseTo(1, 12);
    expect(normalUpperTail(-z)).toBeCloseTo(1 - p, 14);
  });
  it('is at most 1 on two sides', () => {
    expect(normalTwoSided(0)).toBe(1);
    expect(normalTwoSided(-40)).toBe(0);
    expect(normalUpperTail(NaN)).toBeNaN();
  });
});
