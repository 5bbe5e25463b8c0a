import { addDays, daysBetween, instantOf, localDate, minuteOfDay } from '../calendar/zone';
import { MINUTE_MS, type Instant } from '../units';

/**
 * Started days of lateness, by the local clock: the first ends at the same time of the next day as the work was due,
 * whether that day has 23, 24 or 25 hours. At least 1.
 *
 * @param due before `submitted`
 * @param zone of the course (IANA)
 */
export function lateDays(due: Instant, submitted: Instant, zone: string): number {
  const on = localDate(due, zone);
  const days = daysBetween(on, localDate(submitted, zone));
  const sameTime = instantOf(addDays(on, days), minuteOfDay(due, zone), zone) + (due % MINUTE_MS);
  return Math.max(1, submitted > sameTime ? days + 1 : days);
}
