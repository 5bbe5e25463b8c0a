import { addDays } from '../calendar/zone';
import { findCircle } from '../outcomes/prerequisites';
import { no, ok, type Result } from '../result';
import type { LocalDate, Minutes } from '../units';

/** A step of a plan that is to be given a day. */
export interface PlanStep {
  readonly id: string;
  readonly minutes: Minutes;
  /** Its prerequisites: steps that are done before it. */
  readonly after: readonly string[];
  /** The day on which it is to be done, whatever else there is; null to find one. */
  readonly pinned: LocalDate | null;
  /** Orders only: every step is placed, however late. */
  readonly due: LocalDate | null;
  /** Higher goes first among those due together. */
  readonly priority: number;
}

export interface PlanToSchedule {
  readonly from: LocalDate;
  /** Minutes that a day has. */
  readonly minutesPerDay: Minutes;
  readonly daysOff: readonly LocalDate[];
  readonly steps: readonly PlanStep[];
}

export interface ScheduledStep {
  readonly id: string;
  readonly on: LocalDate;
  /** After its due date. */
  readonly late: boolean;
}

/** Earlier due first, then higher priority, then id. */
function comesFirst(a: PlanStep, b: PlanStep): number {
  if (a.due !== b.due) return a.due == null ? 1 : b.due == null ? -1 : a.due < b.due ? -1 : 1;
  return b.priority - a.priority || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}

/** What is wrong with the steps themselves; null for nothing. */
function faultOf({ from, daysOff, steps }: PlanToSchedule): string | null {
  const byId = new Map(steps.map((s) => [s.id, s]));
  if (byId.size < steps.length) {
    const twice = steps.find((s, i) => steps.findIndex((t) => t.id === s.id) !== i)!;
    return `the step “${twice.id}” is there twice`;
  }
  for (const { id, after, pinned } of steps) {
    const absent = after.find((a) => !byId.has(a));
    if (absent !== undefined) return `“${absent}”, a prerequisite of the step “${id}”, is not in the plan`;
    if (pinned != null && pinned < from)
      return `the step “${id}” is pinned to ${pinned}, before the plan begins`;
    if (pinned != null && daysOff.includes(pinned))
      return `the step “${id}” is pinned to ${pinned}, a day off`;
  }
  const circle = findCircle(byId.keys(), (id) => byId.get(id)!.after);
  return circle
    ? `steps are prerequisites of each other in a circle: ${circle.map((c) => `“${c}”`).join(', ')}`
    : null;
}

/**
 * Gives each step of a plan its day: never before the plan begins, on a day off, or ahead of a prerequisite. Pinned steps
 * have their day, and their minutes are reserved first; the others are taken by due date, priority and id as soon as their
 * prerequisites have their days, each on the first day where it fits. A step longer than a day has one for itself. In the
 * order in which they are to be done (a list schedule; Graham 1966, Bell System Technical Journal 45:1563).
 */
export function schedule(plan: PlanToSchedule): Result<ScheduledStep[]> {
  const fault = faultOf(plan);
  if (fault) return no(fault);
  const { from, minutesPerDay, steps } = plan;
  const off = new Set(plan.daysOff);
  const on = new Map(steps.flatMap((s) => (s.pinned == null ? [] : [[s.id, s.pinned] as const])));
  const used = new Map<LocalDate, Minutes>();
  const take = (day: LocalDate, minutes: Minutes) => used.set(day, (used.get(day) ?? 0) + minutes);
  for (const s of steps) if (s.pinned != null) take(s.pinned, s.minutes);
  const fits = (day: LocalDate, minutes: Minutes): boolean => {
    const already = used.get(day);
    return already == null || already + minutes <= minutesPerDay;
  };
  const left = steps.filter((s) => s.pinned == null).sort(comesFirst);
  while (left.length > 0) {
    // There is one, since there is no circle.
    const [step] = left.splice(
      left.findIndex((s) => s.after.every((a) => on.has(a))),
      1,
    );
    let day = step!.after.reduce((latest, a) => (on.get(a)! > latest ? on.get(a)! : latest), from);
    while (off.has(day) || !fits(day, step!.minutes)) day = addDays(day, 1);
    on.set(step!.id, day);
    take(day, step!.minutes);
  }
  const ahead = steps.flatMap((s) =>
    s.after.filter((a) => on.get(a)! > on.get(s.id)!).map((a) => [s, a] as const),
  )[0];
  if (ahead)
    return no(
      `the step “${ahead[0].id}” is pinned to ${ahead[0].pinned}, ahead of its prerequisite “${ahead[1]}”, which is on ${on.get(ahead[1])}`,
    );
  return ok(inOrder(steps, on));
}

/** By day, and within a day prerequisites first. */
function inOrder(steps: readonly PlanStep[], on: ReadonlyMap<string, LocalDate>): ScheduledStep[] {
  const left = [...steps].sort((a, b) => {
    const [x, y] = [on.get(a.id)!, on.get(b.id)!];
    return x === y ? comesFirst(a, b) : x < y ? -1 : 1;
  });
  const done = new Set<string>();
  const order: ScheduledStep[] = [];
  while (left.length > 0) {
    const [{ id, due }] = left.splice(
      left.findIndex((s) => s.after.every((a) => done.has(a))),
      1,
    ) as [PlanStep];
    done.add(id);
    const day = on.get(id)!;
    order.push({ id, on: day, late: due != null && day > due });
  }
  return order;
}
