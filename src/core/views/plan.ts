import type { PlanView } from '../plans/plan';

export interface CoursePlanRow {
  readonly plan: PlanView;
  readonly name: string;
}
