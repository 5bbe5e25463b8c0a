import { MINUTE_MS, type Instant, type Minutes } from '../units';
import { isBreak, type Term } from './term';
import { addDays, instantOf, weekday } from './zone';

/** A class hour that recurs weekly in the term's zone. */
export interface Meeting {
  /** ISO weekday: 1 Monday to 7 Sunday. */
  readonly weekday: number;
  /** Minutes after local midnight. */
  readonly startMinute: number;
  readonly minutes: Minutes;
}

export interface Span {
  readonly from: Instant;
  readonly until: Instant;
}

/** The class hours of a section over a term as instants, in order; none in a break. Wall-clock times hold over DST. */
export function meetingSpans(term: Term, meetings: readonly Meeting[]): Span[] {
  const spans: Span[] = [];
  for (let day = 0; day < term.weeks * 7; day++) {
    const date = addDays(term.start, day);
    if (isBreak(term, date)) continue;
    for (const meeting of meetings) {
      if (meeting.weekday !== weekday(date)) continue;
      const from = instantOf(date, meeting.startMinute, term.zone);
      spans.push({ from, until: from + meeting.minutes * MINUTE_MS });
    }
  }
  return spans.sort((a, b) => a.from - b.from);
}
