import { MINUTE_MS, type Instant, type LocalDate, type Minutes } from '../units';
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

/** A day on which a section does not meet as usual: it meets not at all, or at another or a further hour. */
export interface MeetingException {
  readonly on: LocalDate;
  /** The hour instead; null for no meeting that day. */
  readonly instead: { readonly startMinute: number; readonly minutes: Minutes } | null;
}

export interface Span {
  readonly from: Instant;
  readonly until: Instant;
}

/**
 * The class hours of a section over a term as instants, in order; none in a break, unless an exception says so.
 * An exception stands for all the hours of its day; a second one on that day adds another. Wall-clock times hold
 * over DST.
 */
export function meetingSpans(
  term: Term,
  meetings: readonly Meeting[],
  exceptions: readonly MeetingException[] = [],
): Span[] {
  const spans: Span[] = [];
  const add = (date: LocalDate, { startMinute, minutes }: { startMinute: number; minutes: Minutes }) => {
    const from = instantOf(date, startMinute, term.zone);
    spans.push({ from, until: from + minutes * MINUTE_MS });
  };
  for (let day = 0; day < term.weeks * 7; day++) {
    const date = addDays(term.start, day);
    const instead = exceptions.filter((e) => e.on === date);
    for (const e of instead) if (e.instead) add(date, e.instead);
    if (instead.length > 0 || isBreak(term, date)) continue;
    for (const meeting of meetings) if (meeting.weekday === weekday(date)) add(date, meeting);
  }
  return spans.sort((a, b) => a.from - b.from);
}
