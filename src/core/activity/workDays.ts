import type { DaySpan } from '../calendar/window';
import type { LocalDate } from '../units';

/** What a student did with an activity on a day; packed, since a course has a hundred thousand of them. */
export interface WorkDays {
  readonly count: number;
  readonly activity: Int32Array;
  /** Days since 1970-01-01. */
  readonly day: Int32Array;
  readonly seconds: Float64Array;
  readonly inClassSeconds: Float64Array;
  readonly views: Int32Array;
  readonly contributions: Int32Array;
}

/** Days since 1970-01-01, as the packed days count. */
export const dayNumber = (date: LocalDate): number => Date.parse(`${date}T00:00:00Z`) / 86_400_000;

/** The day of such a number. */
export const dayOfNumber = (day: number): LocalDate => new Date(day * 86_400_000).toISOString().slice(0, 10);

/** Seconds of a student on each activity, all days together. */
export function secondsByActivity(own: WorkDays | undefined): Map<number, number> {
  const seconds = new Map<number, number>();
  for (let i = 0; i < (own?.count ?? 0); i++)
    seconds.set(own!.activity[i]!, (seconds.get(own!.activity[i]!) ?? 0) + own!.seconds[i]!);
  return seconds;
}

/** How often something was looked at on a day: nobody works on what they have not looked at, so a hand-in alone is a look. */
export const looksOn = (own: WorkDays, row: number): number =>
  Math.max(own.views[row]!, own.contributions[row]! > 0 ? 1 : 0);

/** Calls for each row of a student's that falls in a span of days. */
export function eachWorkDay(own: WorkDays | undefined, span: DaySpan, take: (row: number) => void): void {
  if (!own) return;
  const from = dayNumber(span.from);
  const to = dayNumber(span.to);
  const without = (span.without ?? []).map((b) => [dayNumber(b.from), dayNumber(b.to)] as const);
  for (let i = 0; i < own.count; i++) {
    const day = own.day[i]!;
    if (day >= from && day <= to && !without.some(([a, b]) => day >= a && day <= b)) take(i);
  }
}

/**
 * Assignments that a student opened in some days with nothing done in them up to the end of these.
 *
 * @param assignments what can be handed in, by id
 * @returns ids, in no order
 */
export function openedOnly(
  own: WorkDays | undefined,
  span: DaySpan,
  assignments: ReadonlySet<number>,
): ReadonlySet<number> {
  const opened = new Set<number>();
  eachWorkDay(own, span, (i) => {
    if (own!.views[i]! > 0 && assignments.has(own!.activity[i]!)) opened.add(own!.activity[i]!);
  });
  if (opened.size > 0)
    eachWorkDay(own, { from: '1970-01-01', to: span.to }, (i) => {
      if (own!.contributions[i]! > 0) opened.delete(own!.activity[i]!);
    });
  return opened;
}
