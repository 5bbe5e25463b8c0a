import type { Instant, LocalDate, Minutes } from '../units';

export interface StepView {
  readonly id: number;
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  readonly why: string;
  readonly doneAt: Instant | null;
}

export interface PlanView {
  readonly id: number;
  readonly enrolmentId: number;
  readonly by: string;
  readonly at: Instant;
  readonly steps: readonly StepView[];
}

export interface StepInput {
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  readonly why: string;
}

export interface CoursePlanRow {
  readonly plan: PlanView;
  readonly name: string;
}
