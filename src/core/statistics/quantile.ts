import { quantileSorted as quantileOf } from 'simple-statistics';

/**
 * Quantile of type 7 (Hyndman & Fan 1996): linear between order statistics at (n - 1) p. `sorted` ascending; `p` in
 * 0..1; null for an empty list.
 */
export const quantileSorted = (sorted: number[], p: number): number | null =>
  // Added to 0 a −0, which comes of taking a difference the other way round, is 0.
  sorted.length === 0 ? null : quantileOf(sorted, p) + 0;

/** Values in ascending order. */
export const ascending = (values: Iterable<number>): number[] => [...Float64Array.from(values).sort()];

/** Type 7 quantile of values in any order; null for an empty list. */
export function quantile(values: Iterable<number>, p: number): number | null {
  return quantileSorted(ascending(values), p);
}

/** Median of values in any order; null for an empty list. */
export function median(values: Iterable<number>): number | null {
  return quantile(values, 0.5);
}

/** Lower quartile, median and upper quartile (type 7); null for an empty list. */
export function middleHalf(values: Iterable<number>): { low: number; median: number; high: number } | null {
  const sorted = ascending(values);
  const low = quantileSorted(sorted, 0.25);
  const middle = quantileSorted(sorted, 0.5);
  const high = quantileSorted(sorted, 0.75);
  return low == null || middle == null || high == null ? null : { low, median: middle, high };
}

/**
 * Share of `values` below `value`, ties counted half (the mid-rank): 0 lowest, 1 highest; null for an empty list.
 */
export function percentileRank(values: readonly number[], value: number): number | null {
  if (values.length === 0) return null;
  let rank = 0;
  for (const other of values) rank += other < value ? 1 : other === value ? 0.5 : 0;
  return rank / values.length;
}
