import { localDate } from '../calendar/zone';
import type { ClassRecord } from '../course/record';
import { finish } from '../steps';
import { DAY_MS, type Instant } from '../units';
import type { Subject } from './measure';
import { measureClass, windowTimes, type TimeWindows } from './measureClass';
import type { StudentMeasures, WindowTime } from './studentMeasures';

/**
 * The students of a class as measures see them at an instant. Time in other days, and what was found of them before,
 * is computed when it is first asked for.
 *
 * @param measured what was found of them as of that instant
 */
export function subjectsAt(
  record: ClassRecord,
  measured: ReadonlyMap<number, StudentMeasures>,
  windows: TimeWindows,
  asOf: Instant,
): Subject[] {
  const today = localDate(asOf, record.term.zone);
  const times = kept((days: number) => windowTimes(record, days, today));
  const past = kept((days: number) => finish(measureClass(record, windows, asOf - days * DAY_MS)));
  return record.students.map(({ id, parts }, i): Subject => ({
    id,
    parts,
    measured: measured.get(id) ?? null,
    time: (days): WindowTime => times(days)[i]!,
    past: (days) => past(days).get(id) ?? null,
  }));
}

/** A function of a number that is computed once for each. */
function kept<T>(compute: (n: number) => T): (n: number) => T {
  const known = new Map<number, T>();
  return (n) => {
    if (!known.has(n)) known.set(n, compute(n));
    return known.get(n)!;
  };
}
