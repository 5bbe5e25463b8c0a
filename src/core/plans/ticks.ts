import type { PlanView } from './plan';
import type { Instant, LocalDate, Minutes } from '../units';

/** What is known of one student about an activity. */
export interface StepFacts {
  /** When it was handed in; null if it was not. */
  readonly handedIn: (activity: number) => Instant | null;
  /** Minutes on it from a day on, and the end of the last such day. */
  readonly spentSince: (
    activity: number,
    day: LocalDate,
  ) => { readonly minutes: Minutes; readonly at: Instant };
  readonly isAssignment: (activity: number) => boolean;
  /** The local day of an instant. */
  readonly dayOf: (at: Instant) => LocalDate;
}

/** Of what is read or watched so much of the planned time counts as all of it. */
export const IN_FULL_SHARE = 0.8;

/**
 * A plan with the steps ticked that were done without a tick: an assignment that was handed in, a page or film on which
 * the planned time was spent since the plan was made. Who ticked a step keeps their tick.
 */
export function tickedPlan(plan: PlanView, facts: StepFacts): PlanView {
  const day = facts.dayOf(plan.at);
  return {
    ...plan,
    steps: plan.steps.map((step) => {
      if (step.doneAt != null || step.activityId == null) return step;
      if (facts.isAssignment(step.activityId)) {
        const at = facts.handedIn(step.activityId);
        return at == null ? step : { ...step, doneAt: at, byItself: 'handed in' };
      }
      const { minutes, at } = facts.spentSince(step.activityId, day);
      return minutes >= IN_FULL_SHARE * step.minutes
        ? { ...step, doneAt: at, byItself: 'opened in full' }
        : step;
    }),
  };
}
