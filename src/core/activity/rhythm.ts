import { daysBetween, weekday } from '../calendar/zone';
import { teachingDaysBetween, type Term } from '../calendar/term';
import { median } from '../statistics/quantile';
import type { LocalDate } from '../units';

/** How regularly a student comes, and how long they have been away. Gaps are counted in teaching days. */
export interface Rhythm {
  /** Days on which anything was recorded. Nobody acts without being signed in, and some sources record no sign-ins. */
  readonly activeDays: number;
  readonly lastSeen: LocalDate | null;
  /** Calendar days since last seen; null if never. */
  readonly daysSince: number | null;
  /** Teaching days without a login since last seen, breaks left out; from the enrolment if never seen. */
  readonly silence: number;
  /** Median of the gaps between active days, in teaching days; null under two active days. */
  readonly usualGap: number | null;
  /** Longest of the past gaps; null under two active days. */
  readonly longestGap: number | null;
  /** The gap that the last active day ended, in teaching days; null under two active days. */
  readonly lastGap: number | null;
  /** Share of the student's own past gaps that are shorter than the present silence (ties half); null without gaps. */
  readonly silenceQuantile: number | null;
  /** Entropy of active days over weekdays, over log 7: 0 always the same weekday, 1 all alike. Null without any. */
  readonly weekdaySpread: number | null;
}

/**
 * Rhythm from the active days up to `today`. Breaks do not count as silence.
 *
 * @param days local days with an event, ascending, none after `today`
 * @param since first day of the enrolment, from which a silence runs if the student was never seen
 */
export function rhythm(days: readonly LocalDate[], since: LocalDate, today: LocalDate, term: Term): Rhythm {
  const gaps: number[] = [];
  for (let i = 1; i < days.length; i++) {
    // Two active days in a break, one after the other, are still a day apart.
    gaps.push(Math.max(1, teachingDaysBetween(term, days[i - 1]!, days[i]!)));
  }
  const lastSeen = days.at(-1) ?? null;
  const silence =
    lastSeen != null
      ? teachingDaysBetween(term, lastSeen, today)
      : Math.max(0, teachingDaysBetween(term, since, today));
  const counts = new Array<number>(7).fill(0);
  for (const day of days) counts[weekday(day) - 1]!++;
  let entropy = 0;
  for (const n of counts) if (n > 0) entropy -= (n / days.length) * Math.log(n / days.length);
  let rank = 0;
  for (const gap of gaps) rank += gap < silence ? 1 : gap === silence ? 0.5 : 0;
  return {
    activeDays: days.length,
    lastSeen,
    daysSince: lastSeen == null ? null : daysBetween(lastSeen, today),
    silence,
    usualGap: median(gaps),
    longestGap: gaps.length > 0 ? Math.max(...gaps) : null,
    lastGap: gaps.at(-1) ?? null,
    silenceQuantile: gaps.length > 0 ? rank / gaps.length : null,
    weekdaySpread: days.length > 0 ? entropy / Math.log(7) : null,
  };
}
