import type { Instant, LocalDate, Minutes } from '../units';

/** A step of a plan as it was sent, with what became of it. */
export interface StepView {
  readonly id: number;
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  readonly why: string;
  readonly doneAt: Instant | null;
  /** Why it counts as done without a tick; undefined if it was ticked. */
  readonly byItself?: 'handed in' | 'opened in full';
}

/** A study plan of one student. */
export interface PlanView {
  readonly id: number;
  readonly enrolmentId: number;
  readonly by: string;
  readonly at: Instant;
  /** What changed last in it and why; null if nothing did. */
  readonly said: string | null;
  readonly steps: readonly StepView[];
}

/** More steps than this are no plan. */
export const MOST_STEPS = 20;
