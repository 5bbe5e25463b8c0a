import { WEEKDAYS } from '../calendar/weekdays';
import { addDays, instantOf, localDate, weekday } from '../calendar/zone';
import type { Instant } from '../units';

/** The days on which a file is looked for: all, those from Monday to Friday, or one of the week (1 is Monday). */
export const FEED_DAYS = ['daily', 'weekdays', '1', '2', '3', '4', '5', '6', '7'] as const;
export type FeedDays = (typeof FEED_DAYS)[number];

export interface FeedTime {
  readonly days: FeedDays;
  /** Minutes after midnight, in the course's zone. */
  readonly minute: number;
}

/** The days in words: “every day”, “Monday to Friday”, “every Tuesday”. */
export const daysText = (days: FeedDays): string =>
  days === 'daily'
    ? 'every day'
    : days === 'weekdays'
      ? 'Monday to Friday'
      : `every ${WEEKDAYS[Number(days) - 1]}`;

const isOn = (days: FeedDays, day: number): boolean =>
  days === 'daily' || (days === 'weekdays' ? day <= 5 : day === Number(days));

/** The first such time after an instant (`step` 1), or the last before it (-1), by the wall clock of a zone. */
function beside({ days, minute }: FeedTime, from: Instant, zone: string, step: 1 | -1): Instant {
  const today = localDate(from, zone);
  // A day more than a week: the time of today may be over.
  for (let i = 0; ; i++) {
    const day = addDays(today, i * step);
    const at = instantOf(day, minute, zone);
    if (isOn(days, weekday(day)) && (at - from) * step > 0) return at;
  }
}

/** When files are next looked for, after an instant. */
export const nextLook = (time: FeedTime, after: Instant, zone: string): Instant =>
  beside(time, after, zone, 1);

/** When files were last to be looked for, before an instant. */
export const lastLook = (time: FeedTime, before: Instant, zone: string): Instant =>
  beside(time, before, zone, -1);
