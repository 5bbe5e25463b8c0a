import { MINUTE_MS, SECOND_MS, type Instant, type Minutes, type Seconds } from '../units';

/** An event of one student, told apart by whether it was on the work in question. */
export interface WorkEvent {
  readonly at: Instant;
  readonly onWork: boolean;
  readonly login: boolean;
  readonly duration: Seconds | null;
}

/**
 * Minutes on a work before each of its attempts, since the attempt before: dwells of the events on it until the next
 * event of the sitting (a gap over the limit or a login ends a sitting), or their stated duration if shorter. The last
 * event of a sitting adds nothing here: what is counted was surely spent.
 *
 * @param events all events of the student, ascending
 * @param submitted instants of the attempts, ascending
 */
export function attemptMinutes(
  events: readonly WorkEvent[],
  submitted: readonly Instant[],
  gapMinutes: Minutes,
): Minutes[] {
  const minutes = new Array<number>(submitted.length).fill(0);
  let attempt = 0;
  for (let i = 0; i + 1 < events.length; i++) {
    const event = events[i]!;
    while (attempt < submitted.length && event.at >= submitted[attempt]!) attempt++;
    if (attempt === submitted.length) break;
    if (!event.onWork) continue;
    const next = events[i + 1]!;
    const toNext = next.at - event.at;
    if (next.login || toNext > gapMinutes * MINUTE_MS) continue;
    const stated = event.duration == null ? Infinity : event.duration * SECOND_MS;
    minutes[attempt]! += Math.min(toNext, stated) / MINUTE_MS;
  }
  return minutes;
}
