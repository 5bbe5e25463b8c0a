import { mannKendall, theilSenSlope, type MannKendall, type Point } from '../statistics/trend';
import { median } from '../statistics/quantile';
import { WEEK_MS, type Instant, type Percent } from '../units';

/** One returned grade of a student. */
export interface GradedWork {
  readonly activity: string;
  /** When the work was due, or returned if it has no due date: what orders the series. */
  readonly at: Instant;
  readonly percent: Percent;
}

export interface GradeTrend {
  /** Graded works used. */
  readonly n: number;
  /** Theil-Sen slope of the per cents, points a week. */
  readonly perWeek: number | null;
  /** The same after taking off the class median of each work, so that a hard exam is not a fall of everyone. */
  readonly relativePerWeek: number | null;
  /** Whether the relative series has a trend at all. */
  readonly test: MannKendall;
}

/** Fewer graded works say nothing about a trend. */
export const LEAST_WORKS_FOR_TREND = 4;

/** Median per cent of each activity over a class. */
export function activityMedians(works: Iterable<readonly GradedWork[]>): Map<string, Percent> {
  const percents = new Map<string, Percent[]>();
  for (const ofStudent of works) {
    for (const work of ofStudent) {
      const list = percents.get(work.activity);
      if (list) list.push(work.percent);
      else percents.set(work.activity, [work.percent]);
    }
  }
  return new Map([...percents].map(([activity, values]) => [activity, median(values)!]));
}

/**
 * Trend of one student's grades, alone and relative to the class; null under four graded works (too little data).
 * Sources: Theil 1950, Sen 1968; Mann 1945, Kendall 1975.
 */
export function gradeTrend(
  works: readonly GradedWork[],
  medians: ReadonlyMap<string, Percent>,
): GradeTrend | null {
  if (works.length < LEAST_WORKS_FOR_TREND) return null;
  const origin = works[0]!.at;
  const weeks = (at: Instant) => (at - origin) / WEEK_MS;
  const own: Point[] = works.map((w) => ({ x: weeks(w.at), y: w.percent }));
  const relative = works.map((w) => ({
    x: weeks(w.at),
    y: w.percent - (medians.get(w.activity) ?? w.percent),
  }));
  return {
    n: works.length,
    perWeek: theilSenSlope(own),
    relativePerWeek: theilSenSlope(relative),
    test: mannKendall(relative),
  };
}
