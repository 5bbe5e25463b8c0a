import type { PlanView } from './plan';
import { REVIEW_PART } from './reviews';

/** A plan as its student gets it: without the names of what it comes from, which would say in which band they are. */
export function ownView(plan: PlanView): PlanView {
  const name = new Map(plan.parts.map((p, i) => [p.key, `part ${i + 1}`]));
  return {
    ...plan,
    parts: plan.parts.map((p) => ({ ...p, key: name.get(p.key)! })),
    steps: plan.steps.map((s) => ({
      ...s,
      designStep: null,
      part: s.part == null || s.part === REVIEW_PART ? s.part : (name.get(s.part) ?? null),
    })),
  };
}
