import { DAY_MS, type Instant } from '../units';
import { isOpen, type StepView } from './plan';

/** How a plan goes: nothing done yet, going on, nothing done for five days, or every step done. */
export const PLAN_PROGRESS = ['not begun', 'going on', 'stuck', 'through'] as const;
export type PlanProgress = (typeof PLAN_PROGRESS)[number];

/** Days without a step done after which somebody who has begun is stuck. */
export const STUCK_DAYS = 5;

/** How a plan goes as of an instant. */
export function planProgress(
  { steps }: { readonly steps: readonly Pick<StepView, 'doneAt' | 'optional'>[] },
  at: Instant,
): PlanProgress {
  const done = steps.flatMap((s) => s.doneAt ?? []);
  if (!steps.some(isOpen)) return 'through';
  if (done.length === 0) return 'not begun';
  return at - Math.max(...done) > STUCK_DAYS * DAY_MS ? 'stuck' : 'going on';
}
