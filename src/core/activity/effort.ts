import { ascending, median, quantileSorted } from '../statistics/quantile';
import type { Minutes, Percent } from '../units';

/** One student between time on task and progress. */
export interface EffortPoint {
  readonly id: number;
  readonly minutes: Minutes;
  /** The standing, or the share handed in; null while there is none. */
  readonly progress: Percent | null;
  /** Whether they were in the course for all of the days: the median time is over these. */
  readonly whole: boolean;
}

/** Where a student lies beside those with about as much time. */
export interface EffortPlace {
  /** The middle half of their progress, or in a small class the middle third of all. */
  readonly low: Percent;
  readonly high: Percent;
  /** Progress under this, with at least the median time, is effort without progress. */
  readonly mark: Percent;
}

export interface EffortRelation {
  readonly medianMinutes: Minutes;
  /** By student; who has no progress yet is not in it. */
  readonly places: ReadonlyMap<number, EffortPlace>;
}

/** From so many students on the class has a relation of its own between time and progress. */
const LEAST_STUDENTS = 15;
/** How far under the middle half somebody has to lie: a point or two is chance. */
const MARGIN = 5;

/**
 * The course's own relation between time on task and progress: for each student the quartiles of progress of the
 * students nearest in time, the nearest third but at least 15 (running quantiles; Cleveland & Devlin 1988 on local
 * fits by nearest neighbours). Under 15 students: the thirds of all. The order of the points changes nothing.
 */
export function effortRelation(points: readonly EffortPoint[]): EffortRelation {
  const medianMinutes = median(points.filter((p) => p.whole).map((p) => p.minutes)) ?? 0;
  const known = points
    .flatMap((p) => (p.progress == null ? [] : [{ ...p, progress: p.progress }]))
    .sort((a, b) => a.minutes - b.minutes || a.progress - b.progress);
  const n = known.length;
  const places = new Map<number, EffortPlace>();
  if (n < LEAST_STUDENTS) {
    const sorted = ascending(known.map((p) => p.progress));
    const low = quantileSorted(sorted, 1 / 3);
    const high = quantileSorted(sorted, 2 / 3);
    if (low != null && high != null) for (const p of known) places.set(p.id, { low, high, mark: low });
    return { medianMinutes, places };
  }
  const size = Math.max(LEAST_STUDENTS, Math.ceil(n / 3));
  // The nearest of a student stand together in the order by time, and move up with it.
  let first = 0;
  const near = ascending(known.slice(0, size).map((p) => p.progress));
  for (const p of known) {
    while (first + size < n && known[first + size]!.minutes - p.minutes < p.minutes - known[first]!.minutes) {
      near.splice(placeOf(near, known[first]!.progress), 1);
      const next = known[first + size]!.progress;
      near.splice(placeOf(near, next), 0, next);
      first++;
    }
    const low = quantileSorted(near, 0.25)!;
    places.set(p.id, { low, high: quantileSorted(near, 0.75)!, mark: low - MARGIN });
  }
  return { medianMinutes, places };
}

/** First place in an ascending list at which a value stands or would stand. */
function placeOf(sorted: readonly number[], value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The groups that are told apart, since they need different help (common practice). */
export const EFFORT_GROUPS = ['much time, little progress', 'little time, little progress', 'above'] as const;
export type EffortGroup = (typeof EFFORT_GROUPS)[number];

/** The group of a student; null for the middle, and for whom nothing is known yet. */
export function effortGroup(
  { minutes, progress }: EffortPoint,
  medianMinutes: Minutes,
  place: EffortPlace | undefined,
): EffortGroup | null {
  if (progress == null || !place) return null;
  if (progress > place.high) return 'above';
  if (progress >= place.mark) return null;
  return minutes >= medianMinutes ? 'much time, little progress' : 'little time, little progress';
}

export const EFFORT_WORDS: Readonly<Record<EffortGroup, { readonly head: string; readonly next: string }>> = {
  'much time, little progress': {
    head: 'Much time, little progress',
    next: 'At least the median time, and clearly less progress than others with about as much. Look at how they study, and go back to the prerequisites.',
  },
  'little time, little progress': {
    head: 'Little time, little progress',
    next: 'Less than the median time, and clearly less progress than others with about as little. Find out what keeps them away before giving them more to do.',
  },
  above: {
    head: 'More progress than others with as much time',
    next: 'What they do works: say so, give them something harder, or let them help others.',
  },
};
