/** Share of the examinees in the upper and in the lower group (Kelley 1939, J. Educational Psychology 30:17). */
export const GROUP_SHARE = 0.27;

/** Significant digits by which totals are the same: sums of fractions differ in the last of a double. */
const DIGITS = 12;

/** How much of each examinee belongs to the lower and the upper group: 0 to 1 each, `size` together. */
export interface Tails {
  readonly lower: Float64Array;
  readonly upper: Float64Array;
  /** The share of n, not rounded. */
  readonly size: number;
}

/** Totals that differ by rounding alone made the same; whole numbers are as they are. */
function rounded(totals: Float64Array): Float64Array {
  for (const total of totals) if (total % 1 !== 0) return totals.map((t) => Number(t.toPrecision(DIGITS)));
  return totals;
}

/**
 * The lower and upper part of examinees by total score. Those tied at a cut share the places that are left, so that each
 * part is exactly its share of n and the order of rows changes nothing.
 */
export function tails(totals: Float64Array, share: number): Tails {
  const n = totals.length;
  const size = share * n;
  const by = rounded(totals);
  const sorted = Float64Array.from(by).sort();
  const places = Math.ceil(size);
  const [low, high] = [sorted[places - 1]!, sorted[n - places]!];
  const [lowFrom, highFrom] = [sorted.indexOf(low), sorted.indexOf(high)];
  const [lowUntil, highUntil] = [sorted.lastIndexOf(low) + 1, sorted.lastIndexOf(high) + 1];
  const shareLow = (size - lowFrom) / (lowUntil - lowFrom);
  const shareHigh = (size - (n - highUntil)) / (highUntil - highFrom);
  const lower = new Float64Array(n);
  const upper = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const total = by[i]!;
    if (total <= low) lower[i] = total < low ? 1 : shareLow;
    if (total >= high) upper[i] = total > high ? 1 : shareHigh;
  }
  return { lower, upper, size };
}

/** The lower and upper 27 %, each exactly 0.27 n. */
export const groups27 = (totals: Float64Array): Tails => tails(totals, GROUP_SHARE);
