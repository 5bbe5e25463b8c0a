import type { Instant } from '../units';

/**
 * Who gets something: all of the course, the section of that id, a group (`m` or `a` and its id); whoever joins it before
 * it opens gets it too. Single students are no target: nobody joins them.
 */
export type GivenTarget = 'all' | `${number}` | `m${number}` | `a${number}`;

/** The dates of what is given to one student. */
export interface GivenDates {
  readonly opensAt: Instant | null;
  readonly dueAt: Instant | null;
  readonly closesAt: Instant | null;
}

/** What stood for a student and an activity before and after; null where it was not theirs by name. */
export interface GivenChange {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly before: GivenDates | null;
  readonly after: GivenDates | null;
}

/** What is wrong with dates, in words; null if nothing is. */
export function datesFault({ opensAt, dueAt, closesAt }: GivenDates): string | null {
  if (opensAt != null && dueAt != null && dueAt <= opensAt) return 'It is due before it opens.';
  if (opensAt != null && closesAt != null && closesAt <= opensAt) return 'It closes before it opens.';
  if (dueAt != null && closesAt != null && closesAt < dueAt) return 'It closes before it is due.';
  return null;
}

/**
 * Dates for a student who gets more time: what is between the opening (or now) and the due date is longer by so many per
 * cent, and it does not close before that. In whole minutes.
 */
export function withMoreTime(dates: GivenDates, percent: number, now: Instant): GivenDates {
  if (percent <= 0 || dates.dueAt == null) return dates;
  const from = Math.max(dates.opensAt ?? now, now);
  if (dates.dueAt <= from) return dates;
  const minute = 60_000;
  const dueAt = from + Math.ceil(((dates.dueAt - from) * (100 + percent)) / 100 / minute) * minute;
  return { ...dates, dueAt, closesAt: dates.closesAt == null ? null : Math.max(dates.closesAt, dueAt) };
}

export const sameDates = (a: GivenDates | null, b: GivenDates | null): boolean =>
  a == null || b == null
    ? a === b
    : a.opensAt === b.opensAt && a.dueAt === b.dueAt && a.closesAt === b.closesAt;

/** Students and activities that may be given, and what stands of each. */
export interface GiveInput {
  readonly students: readonly number[];
  readonly activities: readonly number[];
  readonly dates: GivenDates;
  /** Whether those who have it, or have done it, get it again. */
  readonly again: boolean;
  readonly now: Instant;
  readonly has: (student: number, activity: number) => GivenDates | null;
  readonly isDone: (student: number, activity: number) => boolean;
  /** Per cent of more time that a student gets. */
  readonly moreTime: (student: number) => number;
}

export interface Give {
  readonly changes: readonly GivenChange[];
  /** Students of whom some have it already, and who have done it. */
  readonly have: readonly number[];
  readonly done: readonly number[];
  /** Work that was done and is given again: one more attempt is granted. */
  readonly again: readonly { readonly enrolmentId: number; readonly activityId: number }[];
  /** Students whose date is later by more time. */
  readonly later: readonly number[];
}

/** Who gets what, by when; and who has it or has done it, and is skipped unless it is given again. */
export function decideGive(input: GiveInput): Give {
  const changes: GivenChange[] = [];
  const again: { enrolmentId: number; activityId: number }[] = [];
  const [have, done, later] = [new Set<number>(), new Set<number>(), new Set<number>()];
  for (const enrolmentId of input.students)
    for (const activityId of input.activities) {
      const before = input.has(enrolmentId, activityId);
      const isDone = input.isDone(enrolmentId, activityId);
      if (isDone) done.add(enrolmentId);
      else if (before) have.add(enrolmentId);
      if ((before || isDone) && !input.again) continue;
      const after = withMoreTime(input.dates, input.moreTime(enrolmentId), input.now);
      // Pressed twice, or by two at once, it is given once.
      if (before && sameDates(before, after)) continue;
      if (isDone) again.push({ enrolmentId, activityId });
      if (after.dueAt !== input.dates.dueAt) later.add(enrolmentId);
      changes.push({ enrolmentId, activityId, before, after });
    }
  return { changes, have: [...have], done: [...done], again, later: [...later] };
}
