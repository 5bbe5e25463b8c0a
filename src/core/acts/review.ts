import { addDays, instantOf, localDate, weekday } from '../calendar/zone';
import type { Instant } from '../units';

/** A time each week at which somebody goes through a course. */
export interface ReviewTime {
  /** 1 Monday to 7 Sunday. */
  readonly weekday: number;
  /** Minutes after midnight, in the course's zone. */
  readonly minute: number;
}

/** The next such time after an instant, by the wall clock of a zone. */
export function nextReview({ weekday: on, minute }: ReviewTime, after: Instant, zone: string): Instant {
  const today = localDate(after, zone);
  const day = addDays(today, (on - weekday(today) + 7) % 7);
  const at = instantOf(day, minute, zone);
  return at > after ? at : instantOf(addDays(day, 7), minute, zone);
}
