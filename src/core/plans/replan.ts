import { addDays, weekday } from '../calendar/zone';
import { counted, weekdayDay } from '../format';
import type { Result } from '../result';
import { ok } from '../result';
import type { LocalDate, Minutes } from '../units';
import type { StepView } from './plan';
import { schedule } from './schedule';

/** When a student learns: minutes a day, and the weekdays on which they do not (1 is Monday). */
export interface StudyTimes {
  readonly minutesPerDay: Minutes;
  readonly weekdaysOff: readonly number[];
}

export interface Replanned {
  /** The day of each open step, by id. */
  readonly on: ReadonlyMap<number, LocalDate>;
  /** Open steps in the order in which they are to be done, by id. */
  readonly order: readonly number[];
  /** Steps that come after what they are for is due, by id; not those that were overdue before. */
  readonly late: readonly number[];
}

type Step = Pick<StepView, 'id' | 'minutes' | 'doneAt' | 'activityId'>;

/** Days looked ahead for those off: a plan of the most steps, one a week, ends before. */
const AHEAD_DAYS = 200;

/** The days off of a student from a day on. */
function daysOff(from: LocalDate, { weekdaysOff }: StudyTimes): LocalDate[] {
  return Array.from({ length: AHEAD_DAYS }, (_, i) => addDays(from, i)).filter((day) =>
    weekdaysOff.includes(weekday(day)),
  );
}

/**
 * New days for the open steps of a plan, from a day on: what is due first goes first, with what stands before it in the plan to
 * prepare for it, then their order in the plan; days are filled up to the minutes of the student, and none is on a day off.
 * What is done stays as it is.
 *
 * @param dueOf the day on which what a step is for is due; null for none
 */
export function replan(
  steps: readonly Step[],
  from: LocalDate,
  times: StudyTimes,
  dueOf: (activityId: number) => LocalDate | null,
): Result<Replanned> {
  const open = steps.filter((s) => s.doneAt == null);
  const own = open.map((s) => (s.activityId == null ? null : dueOf(s.activityId)));
  // A page before a quiz goes with the quiz.
  const dues = own.map((due, i) => due ?? own.slice(i).find((d) => d != null) ?? null);
  // Ids in one length, so that their order as text is that of the plan.
  const idOf = (at: number) => String(at).padStart(4, '0');
  const found = schedule({
    from,
    minutesPerDay: times.minutesPerDay,
    daysOff: daysOff(from, times),
    steps: open.map((s, i) => ({
      id: idOf(i),
      minutes: s.minutes,
      after: [],
      pinned: null,
      due: dues[i]!,
      priority: 0,
    })),
  });
  if (!found.ok) return found;
  const stepOf = new Map(open.map((s, i) => [idOf(i), s.id]));
  return ok({
    on: new Map(found.value.map((s) => [stepOf.get(s.id)!, s.on])),
    order: found.value.map((s) => stepOf.get(s.id)!),
    late: found.value.flatMap((s) => {
      const due = own[Number(s.id)];
      return due != null && due >= from && s.on > due ? [stepOf.get(s.id)!] : [];
    }),
  });
}

/** What a new plan says of itself in a line: what moved and why, and what comes too late. */
export function replanWords(
  steps: readonly Pick<StepView, 'id' | 'title' | 'on'>[],
  { on, late }: Replanned,
  why: string,
): string {
  const moved = steps.filter((s) => on.has(s.id) && on.get(s.id) !== s.on);
  if (moved.length === 0) return `Nothing had to move: ${why}.`;
  const last = [...on.values()].sort().at(-1)!;
  const titles = steps.filter((s) => late.includes(s.id)).map((s) => `“${s.title}”`);
  const tooLate =
    titles.length === 0
      ? ''
      : ` ${titles.join(', ')} ${titles.length === 1 ? 'is' : 'are'} later than due: it does not all fit.`;
  return `${counted(moved.length, 'step')} moved, since ${why}; the last is now on ${weekdayDay(last)}.${tooLate}`;
}
