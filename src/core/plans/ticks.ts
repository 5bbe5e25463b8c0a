import type { Instant, LocalDate, Minutes } from '../units';
import { withExpected } from './expected';
import type { PlanView, StepView } from './plan';

/** What is known of one student about an activity. */
export interface StepFacts {
  /** When it was handed in, and whether it is returned as passed; null if it was not. */
  readonly handedIn: (activity: number) => { readonly at: Instant; readonly passed: boolean } | null;
  /** When it was handed in for the last time. */
  readonly lastAttempt: (activity: number) => Instant | null;
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
/** From this share of the points an assignment is passed (common practice). */
export const PASSED_SHARE = 0.6;

/**
 * A plan with the steps ticked that were done without a tick: an assignment that was handed in or passed, a further attempt
 * that was made, a page or film on which the planned time was spent since the plan was made. Who ticked a step keeps their
 * tick. Steps that are there to choose are marked.
 */
export function tickedPlan(plan: PlanView, facts: StepFacts): PlanView {
  const day = facts.dayOf(plan.at);
  return {
    ...plan,
    steps: withExpected(
      plan.parts,
      plan.steps.map((step) => ticked(step, plan.at, day, facts)),
    ),
  };
}

function ticked(step: StepView, since: Instant, day: LocalDate, facts: StepFacts): StepView {
  if (step.doneAt != null || step.activityId == null) return step;
  if (step.further) {
    const at = facts.lastAttempt(step.activityId);
    return at == null || at <= since ? step : { ...step, doneAt: at, byItself: 'tried again' };
  }
  if (facts.isAssignment(step.activityId)) {
    const found = facts.handedIn(step.activityId);
    return found ? { ...step, doneAt: found.at, byItself: found.passed ? 'passed' : 'handed in' } : step;
  }
  const { minutes, at } = facts.spentSince(step.activityId, day);
  if (minutes >= IN_FULL_SHARE * step.minutes) return { ...step, doneAt: at, byItself: 'opened in full' };
  return minutes > 0 ? { ...step, begun: true } : step;
}
