import { weekOf, weekSpan } from '../calendar/term';
import type { ClassRecord } from '../course/record';
import { lazyMeasures } from '../measures/measureClass';
import { subjectsAt } from '../measures/subjects';
import type { Steps } from '../steps';
import type { Instant } from '../units';
import { crossings } from './crossings';
import { FLAG_KINDS, timeWindows, type FlagKind, type IndicatorSettings } from './indicators';
import type { FlagLevel } from './level';

/** Whom an indicator finds at the end of a week, or now: students over its threshold, by id, with their level. */
export type FoundByIndicator = Readonly<Record<FlagKind, ReadonlyMap<number, FlagLevel>>>;

/**
 * Whom each indicator would have found with some thresholds at the end of each week of the term so far, the last week as
 * of now. It counts who crosses the threshold at that moment; flags stay a day longer, so that they do not flap. A step
 * is a week.
 */
export function* flaggedByWeek(
  record: ClassRecord,
  settings: IndicatorSettings,
  now: Instant,
): Steps<FoundByIndicator[]> {
  const { term } = record;
  const last = Math.min(weekOf(term, now), term.weeks);
  const windows = timeWindows(settings);
  const found: FoundByIndicator[] = [];
  for (let week = 1; week <= last; week++) {
    const asOf = Math.min(now, weekSpan(term, week).until - 1);
    const measured = lazyMeasures(record, windows, asOf);
    const crossed = crossings(subjectsAt(record, measured, windows, asOf), settings);
    const byKind = Object.fromEntries(
      FLAG_KINDS.map((kind) => [kind, new Map<number, FlagLevel>()]),
    ) as Record<FlagKind, Map<number, FlagLevel>>;
    for (const [student, list] of crossed)
      for (const { kind, level } of list) byKind[kind].set(student, level);
    found.push(byKind);
    yield;
  }
  return found;
}
