import { DAY_MS, MINUTE_MS, type Instant, type Minutes } from '../units';
import { GAP_MINUTES } from './dwell';
import type { EventColumns } from './events';
import type { EventOrder } from './order';

/** Events of a student older than this are settled, once there are more; a late arrival still finds the newer ones. */
const KEPT_MS = 2 * DAY_MS;
const SETTLE_AFTER_MS = 5 * DAY_MS;

/** Session limits that are compared with each other beside every total, in minutes. */
export const COMPARED_LIMITS: readonly Minutes[] = [10, 30, 60];

/**
 * The position from which the events of a student are still on the move, if they have run on for long enough: the
 * latest start of a session that is one at every limit in use, at least two days before the last event. What lies
 * before it never changes by what comes after it, but for the typical dwell. Null where nothing can be settled.
 *
 * @param gapMinutes the course's session limit
 * @param since instant from which the events are there; those before it are settled already
 */
export function settledFrom(
  events: EventColumns,
  { rows, at, offsets }: EventOrder,
  student: number,
  gapMinutes: Minutes,
  since: Instant,
): number | null {
  const [from, until] = [offsets[student]!, offsets[student + 1]!];
  if (until === from || at[until - 1]! - since < SETTLE_AFTER_MS) return null;
  const gap = Math.max(gapMinutes, GAP_MINUTES.usual, ...COMPARED_LIMITS) * MINUTE_MS;
  for (let p = until - 1; p > from; p--) {
    if (at[p]! > at[until - 1]! - KEPT_MS) continue;
    const toIt = at[p]! - at[p - 1]!;
    if (toIt > gap || (toIt > 0 && events.login[rows[p]!] === 1)) return p;
  }
  return null;
}
