import { linearRegression } from 'simple-statistics';
import { normalTwoSided } from './normal';
import { median } from './quantile';

/** One observation of a series: x in any unit of time, y in any unit. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Least-squares slope, y units per x unit; null with fewer than two different x. */
export function olsSlope(points: readonly Point[]): number | null {
  const origin = points[0];
  if (!origin || points.every((p) => p.x === origin.x)) return null;
  // Measured from the first point the sums stay small, whatever the epoch of x.
  return linearRegression(points.map((p) => [p.x - origin.x, p.y - origin.y])).m;
}

/**
 * Theil-Sen slope: the median of the slopes between all pairs with different x (Theil 1950, Sen 1968). A single wild
 * value hardly moves it. Null with fewer than two different x.
 */
export function theilSenSlope(points: readonly Point[]): number | null {
  const slopes: number[] = [];
  for (let i = 0; i < points.length; i++) {
    for (let j = i + 1; j < points.length; j++) {
      const dx = points[j]!.x - points[i]!.x;
      if (dx !== 0) slopes.push((points[j]!.y - points[i]!.y) / dx);
    }
  }
  return median(slopes);
}

export interface MannKendall {
  /** Concordant minus discordant pairs; pairs equal in x or y count nothing. */
  readonly s: number;
  /** Variance of S under no trend, corrected for ties. */
  readonly varS: number;
  /** Kendall's tau-b; null if all x or all y are equal. */
  readonly tauB: number | null;
  /** Two-sided p, normal with continuity correction; null with fewer than two observations. */
  readonly p: number | null;
}

/** Sizes of the groups of equal values. */
function tieSizes(values: readonly number[]): number[] {
  const counts = new Map<number, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts.values()].filter((n) => n > 1);
}

const sum = (values: readonly number[], f: (v: number) => number) =>
  values.reduce((total, v) => total + f(v), 0);

/**
 * Mann-Kendall test for a monotone trend (Mann 1945; Kendall 1975, with his variance for ties in both variables, which
 * without ties in x is the usual n(n-1)(2n+5)/18 less the tie term). A series without any pair in order or against it
 * has S = 0 and p = 1.
 */
export function mannKendall(points: readonly Point[]): MannKendall {
  const n = points.length;
  if (n < 2) return { s: 0, varS: 0, tauB: null, p: null };
  let s = 0;
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      s += Math.sign(points[j]!.x - points[i]!.x) * Math.sign(points[j]!.y - points[i]!.y);
    }
  }
  const tx = tieSizes(points.map((p) => p.x));
  const ty = tieSizes(points.map((p) => p.y));
  const pairs = (t: number) => (t * (t - 1)) / 2;
  const triples = (t: number) => t * (t - 1) * (t - 2);
  const spread = (t: number) => t * (t - 1) * (2 * t + 5);
  let varS = (spread(n) - sum(tx, spread) - sum(ty, spread)) / 18;
  varS += (2 * sum(tx, pairs) * sum(ty, pairs)) / (n * (n - 1));
  if (n > 2) varS += (sum(tx, triples) * sum(ty, triples)) / (9 * n * (n - 1) * (n - 2));
  const denominator = Math.sqrt((pairs(n) - sum(tx, pairs)) * (pairs(n) - sum(ty, pairs)));
  const z = s === 0 || varS <= 0 ? 0 : (Math.abs(s) - 1) / Math.sqrt(varS);
  return { s, varS: Math.max(0, varS), tauB: denominator > 0 ? s / denominator : null, p: normalTwoSided(z) };
}
