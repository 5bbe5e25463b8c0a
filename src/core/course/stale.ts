import { addDays, localDate } from '../calendar/zone';
import { weekdayDay } from '../format';
import { HOUR_MS, type Instant, type LocalDate } from '../units';
import type { ClassRecord } from './record';

/** Hours without a single event of a class after which its data are taken for stale: a night and a day. */
const STALE_HOURS = 36;

/** Whether a class has not brought an event for so long that nobody's silence says anything. */
export const isStale = (dataUntil: Instant | null, at: Instant): boolean =>
  dataUntil == null || at - dataUntil > STALE_HOURS * HOUR_MS;

/** How that is said: “no data since Tue 24 Nov”. */
export const staleText = (dataUntil: Instant | null, zone: string): string =>
  dataUntil == null ? 'no data yet' : `no data since ${weekdayDay(localDate(dataUntil, zone))}`;

/**
 * Whether the data of a class were stale when a day ended that is over. A day with anything recorded had data to its end.
 */
export function staleDays(record: ClassRecord): (day: LocalDate) => boolean {
  const found = new Set(record.students.flatMap((s) => s.days.map((d) => d.date)));
  // The gap from the end of one day to that of another is a whole number of days, but for an hour.
  const kept = Math.floor(STALE_HOURS / 24);
  return (day) => {
    for (let back = 0; back <= kept; back++) if (found.has(addDays(day, -back))) return false;
    return true;
  };
}
