import { listed } from '@/core/format';
import { nextSteps, type PlanView } from '@/core/plans/plan';
import { planProgress } from '@/core/plans/progress';
import type { Instant } from '@/core/units';

/** How a plan goes, and what comes next in it. */
export function PlanLine({ plan, at }: { readonly plan: PlanView; readonly at: Instant }) {
  const next = nextSteps(plan.steps).map((s) => `“${s.title}”`);
  return (
    <>
      {planProgress(plan, at)}
      {next.length === 0 ? '' : `; next ${listed(next)}`}
    </>
  );
}
