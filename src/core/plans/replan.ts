import { isBreak, weekSpan, type Term } from '../calendar/term';
import { addDays, weekday } from '../calendar/zone';
import { groupBy } from '../groupBy';
import { ok, type Result } from '../result';
import type { LocalDate, Minutes } from '../units';
import { isOpen, type PlanPart, type StepView } from './plan';
import { REVIEW_PART } from './reviews';
import { schedule, type PlanStep, type ScheduledStep } from './schedule';

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
  /** Steps that come after the term has ended, by id. */
  readonly afterTerm: readonly number[];
}

export type PlannedStep = Pick<
  StepView,
  'id' | 'minutes' | 'doneAt' | 'activityId' | 'on' | 'part' | 'pinned' | 'lessonAt' | 'optional'
>;

/** Minutes that are asked for on a day. */
export interface BusyDay {
  readonly on: LocalDate;
  readonly minutes: Minutes;
}

/** What the open steps of plans ask for. */
export const busyOf = (
  plans: readonly { readonly steps: readonly Pick<StepView, 'on' | 'minutes' | 'doneAt' | 'optional'>[] }[],
): BusyDay[] => plans.flatMap((p) => p.steps.filter(isOpen).map(({ on, minutes }) => ({ on, minutes })));

/** What a plan has to fit. */
export interface PlanSetting {
  /** The first day on which a step may fall. */
  readonly from: LocalDate;
  /** Steps for days before it were missed. */
  readonly today: LocalDate;
  readonly times: StudyTimes;
  readonly term: Term;
  /** The day on which what a step is for is due; null for none. */
  readonly dueOf: (activityId: number) => LocalDate | null;
  /** Whether an activity has something that can be handed in: it goes first among those due together. */
  readonly isAssignment?: (activityId: number) => boolean;
  /** Whether what one activity is about rests on what another is about. */
  readonly restsOn?: (activityId: number, other: number) => boolean;
  /** What other plans of the student ask for: together they keep to the minutes of a day. */
  readonly busy?: readonly BusyDay[];
  /** The local day on which a step was done. */
  readonly doneOn?: (step: Pick<StepView, 'doneAt'>) => LocalDate | null;
}

/** Days looked ahead for those off: a plan of the most steps, one a week, ends before. */
const AHEAD_DAYS = 200;

const isOff = (day: LocalDate, { term, times }: PlanSetting): boolean =>
  times.weekdaysOff.includes(weekday(day)) || isBreak(term, day);

/**
 * New days for the open steps of a plan, from a day on: what is due first goes first, with what stands before it in its part
 * to prepare for it, then assignments, then their order in the plan; nothing before what it rests on, or out of an order
 * that is fixed. Days are filled up to the minutes of the student, what they have done that day counted; none is on a day off.
 * What is done, and what is pinned, stays as it is. Reviews come first, one a day. What is there to choose has the last
 * day of its part.
 */
export function replan(
  parts: readonly PlanPart[],
  steps: readonly PlannedStep[],
  setting: PlanSetting,
): Result<Replanned> {
  const { from } = setting;
  const open = steps.filter(isOpen);
  // What is pinned to a day that is over, or off, has its day and takes no other's.
  const stays = open.filter((s) => isPinned(s) && (s.on < from || isOff(s.on, setting)));
  const placed = open.filter((s) => !stays.includes(s));
  const own = new Map(
    placed.map((s) => [s.id, s.activityId == null ? null : setting.dueOf(s.activityId)] as const),
  );
  const pins = reviewDays(placed, setting);
  for (const s of placed) if (isPinned(s)) pins.set(s.id, s.on);
  // Ids in one length, so that their order as text is that of the plan.
  const idOf = new Map(placed.map((s, i) => [s.id, String(i).padStart(4, '0')]));
  const toPlace = (after: ReadonlyMap<number, readonly number[]>): PlanStep[] =>
    placed.map((s, i) => ({
      id: idOf.get(s.id)!,
      minutes: s.minutes,
      // A pin is stronger than an order.
      after: pins.has(s.id) ? [] : (after.get(s.id) ?? []).map((id) => idOf.get(id)!),
      pinned: pins.get(s.id) ?? null,
      // A page before a quiz goes with the quiz.
      due:
        own.get(s.id) ??
        placed
          .slice(i)
          .filter((t) => t.part === s.part)
          .map((t) => own.get(t.id))
          .find((d) => d != null) ??
        null,
      priority: s.activityId != null && setting.isAssignment?.(s.activityId) ? 1 : 0,
    }));
  const place = (after: ReadonlyMap<number, readonly number[]>) =>
    schedule({
      from,
      minutesPerDay: setting.times.minutesPerDay,
      daysOff: Array.from({ length: AHEAD_DAYS }, (_, i) => addDays(from, i)).filter((d) =>
        isOff(d, setting),
      ),
      steps: [...toPlace(after), ...reserved(steps, setting)],
    });
  const order = fixedOrder(parts, placed);
  const first = place(withPrerequisites(order, placed, setting));
  // Several outcomes on one page can rest on each other both ways: then only the orders that somebody set hold.
  const found = first.ok ? first : place(order);
  if (!found.ok) return found;
  const stepOf = new Map([...idOf].map(([id, name]) => [name, id]));
  const days: ScheduledStep[] = found.value.filter((s) => stepOf.has(s.id));
  const on = new Map(days.map((s) => [stepOf.get(s.id)!, s.on]));
  for (const s of stays) on.set(s.id, s.on);
  const end = weekSpan(setting.term, setting.term.weeks).last;
  const late = days.flatMap((s) => {
    const due = own.get(stepOf.get(s.id)!);
    return due != null && due >= from && s.on > due ? [stepOf.get(s.id)!] : [];
  });
  const inOrder = [...stays.map((s) => s.id), ...days.map((s) => stepOf.get(s.id)!)];
  const choices = choiceDays(steps, on);
  return ok({
    on: new Map([...on, ...choices]),
    order: [...inOrder, ...choices.keys()],
    late,
    afterTerm: [...on].filter(([, day]) => day > end).map(([id]) => id),
  });
}

/** A lesson is when it is, and what somebody pinned is where they put it. */
const isPinned = (s: PlannedStep): boolean => s.pinned || s.lessonAt != null;

/** Reviews, one a day from the first day on that is not off. */
function reviewDays(placed: readonly PlannedStep[], setting: PlanSetting): Map<number, LocalDate> {
  const days = new Map<number, LocalDate>();
  let day = setting.from;
  for (const s of placed.filter((p) => p.part === REVIEW_PART)) {
    while (isOff(day, setting)) day = addDays(day, 1);
    days.set(s.id, day);
    day = addDays(day, 1);
  }
  return days;
}

/** What takes of the minutes of days: what was done on the first, and what other plans ask for. */
function reserved(steps: readonly PlannedStep[], setting: PlanSetting): PlanStep[] {
  const { from, doneOn, busy = [] } = setting;
  const done = steps.filter((s) => s.doneAt != null && doneOn?.(s) === from);
  return [...done.map(({ minutes }) => ({ on: from, minutes })), ...busy]
    .filter((b) => b.on >= from && !isOff(b.on, setting))
    .map((b, i) => ({
      id: `reserved ${i}`,
      minutes: b.minutes,
      after: [],
      pinned: b.on,
      due: null,
      priority: 0,
    }));
}

/** What each step comes after in parts whose order is fixed, by id. */
function fixedOrder(parts: readonly PlanPart[], placed: readonly PlannedStep[]): Map<number, number[]> {
  const fixed = new Set(parts.filter((p) => p.order === 'fixed').map((p) => p.key));
  const after = new Map<number, number[]>();
  for (const [part, own] of groupBy(placed, (s) => s.part))
    if (part != null && fixed.has(part)) own.slice(1).forEach((s, i) => after.set(s.id, [own[i]!.id]));
  return after;
}

/** The same with what the outcomes ask for. */
function withPrerequisites(
  order: ReadonlyMap<number, readonly number[]>,
  placed: readonly PlannedStep[],
  { restsOn }: PlanSetting,
): ReadonlyMap<number, readonly number[]> {
  if (!restsOn) return order;
  const rests = (a: PlannedStep, b: PlannedStep) =>
    a.activityId != null && b.activityId != null && restsOn(a.activityId, b.activityId);
  return new Map(
    placed.map((s) => [
      s.id,
      [
        ...(order.get(s.id) ?? []),
        ...placed.filter((t) => t !== s && rests(s, t) && !rests(t, s)).map((t) => t.id),
      ],
    ]),
  );
}

/** The day of what is there to choose: the last of its part. */
function choiceDays(
  steps: readonly PlannedStep[],
  on: ReadonlyMap<number, LocalDate>,
): Map<number, LocalDate> {
  const last = (part: string | null) =>
    steps
      .filter((s) => s.part === part)
      .flatMap((s) => on.get(s.id) ?? [])
      .sort()
      .at(-1);
  return new Map(
    steps.filter((s) => s.doneAt == null && s.optional === true).map((s) => [s.id, last(s.part) ?? s.on]),
  );
}
