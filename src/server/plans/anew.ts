import { missedOn, type PlanView } from '@/core/plans/plan';
import { busyOf, replan, type BusyDay, type PlanSetting } from '@/core/plans/replan';
import { replanWords, type PlanChange } from '@/core/plans/planWords';
import { ok, type Result } from '@/core/result';
import { moveSteps, sayOfPlans, type PlanSaying, type StepPlace } from '@/data/write/planSteps';
import type { Access } from '@/data/database';
import { nowDate } from '../base/clock';

/** What is written of a plan that was made anew. */
export interface PlannedAnew {
  readonly places: readonly StepPlace[];
  readonly saying: PlanSaying;
}

/** The open steps of a plan with new days, and a line that says what changed and why; refused where no order can be kept. */
export function anew(
  plan: PlanView,
  setting: PlanSetting,
  why: string,
  change?: PlanChange,
): Result<PlannedAnew> {
  const found = replan(plan.parts, plan.steps, setting);
  if (!found.ok) return found;
  const { on, order } = found.value;
  const said = replanWords(plan.steps, found.value, why, change);
  const done = plan.steps.filter((s) => !on.has(s.id));
  const stepOf = new Map(plan.steps.map((s) => [s.id, s]));
  const place = (id: number, position: number): StepPlace => ({
    id,
    position,
    on: on.get(id)!,
    wasOn: missedOn(stepOf.get(id)!, setting.today),
  });
  return ok({
    places: [
      ...done.map((s, i) => ({ id: s.id, on: s.on, position: i, wasOn: s.wasOn })),
      ...order.map((id, i) => place(id, done.length + i)),
    ],
    saying: { id: plan.id, said },
  });
}

/** What a plan asks for on its days once it is made anew. */
export function busyAfter(plan: PlanView, { places }: PlannedAnew): BusyDay[] {
  const onOf = new Map(places.map((p) => [p.id, p.on]));
  return busyOf([{ steps: plan.steps.map((s) => ({ ...s, on: onOf.get(s.id) ?? s.on })) }]);
}

/** Writes plans that were made anew, in a transaction. */
export async function storeAnew(tx: Access, list: readonly PlannedAnew[]): Promise<void> {
  await moveSteps(
    tx,
    list.flatMap((p) => p.places),
  );
  await sayOfPlans(
    tx,
    list.map((p) => p.saying),
    nowDate(),
  );
}
