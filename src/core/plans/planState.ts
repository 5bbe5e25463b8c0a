import type { LocalDate } from '../units';
import { isOpen, missedOn, type StepView } from './plan';

/** How a student's study plans stand: none, open and on time, with a step overdue, or every step done. */
export const PLAN_STATES = ['none', 'open', 'overdue', 'finished'] as const;
export type PlanState = (typeof PLAN_STATES)[number];

/** How one plan stands on a day. */
export function planState(
  { steps }: { readonly steps: readonly Pick<StepView, 'doneAt' | 'on' | 'wasOn' | 'optional'>[] },
  today: LocalDate,
): PlanState {
  const open = steps.filter(isOpen);
  if (open.some((s) => missedOn(s, today) != null)) return 'overdue';
  return open.length > 0 ? 'open' : 'finished';
}

/** How several plans of a student stand together: what is overdue in any counts, then what is open in any. */
export const plansState = (states: readonly PlanState[]): PlanState =>
  (['overdue', 'open', 'finished'] as const).find((state) => states.includes(state)) ?? 'none';
