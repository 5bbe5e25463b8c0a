import { mean } from 'simple-statistics';
import { ascending, quantileSorted } from '../statistics/quantile';

/** How a list of figures lies. Quantiles are of type 7 (Hyndman & Fan 1996). */
export interface Summary {
  readonly n: number;
  readonly lowest: number;
  readonly low: number;
  readonly median: number;
  readonly mean: number;
  readonly high: number;
  readonly highest: number;
}

/** Lowest, middle half, median, mean, highest; null for an empty list. */
export function summarise(values: Iterable<number>): Summary | null {
  const sorted = ascending(values);
  if (sorted.length === 0) return null;
  const at = (p: number) => quantileSorted(sorted, p)!;
  return {
    n: sorted.length,
    lowest: sorted[0]!,
    low: at(0.25),
    median: at(0.5),
    mean: mean(sorted),
    high: at(0.75),
    highest: sorted.at(-1)!,
  };
}

export interface Bin {
  /** From, included, to, excluded; the last bin holds its end too. */
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

/** Counts of values in bins of equal width from 0 to `most`; values outside go to the nearest end. */
export function binned(values: Iterable<number>, most: number, width: number): Bin[] {
  const n = Math.max(1, Math.ceil(most / width - 1e-9));
  const counts = new Array<number>(n).fill(0);
  for (const value of values) counts[Math.min(n - 1, Math.max(0, Math.floor(value / width)))]!++;
  return counts.map((count, i) => ({ from: i * width, to: (i + 1) * width, count }));
}

/** A width of bins that reads well (1, 2, 5 times a power of ten) and makes about `wanted` of them. */
export function binWidth(most: number, wanted: number): number {
  if (most <= 0) return 1;
  const rough = most / wanted;
  const power = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((m) => m * power).find((w) => w >= rough - 1e-9)!;
}
