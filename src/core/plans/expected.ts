import type { PlanPart, StepView } from './plan';
import { STEP_SETS } from './design';

type Step = Pick<StepView, 'part' | 'set' | 'doneAt' | 'begun'>;

/**
 * Which of the open steps of a part are there to choose, and not expected: all of what is known; all but the first of what is
 * to skim; of "any n" what is over n, those begun first; the set that is further behind where one of two is enough. What
 * is done, or expected, is not among them.
 */
export function optionalSteps<S extends Step>(part: PlanPart, steps: readonly S[]): Set<S> {
  const own = steps.filter((s) => s.part === part.key);
  const open = own.filter((s) => s.doneAt == null);
  if (part.mark === 'known') return new Set(open);
  const expected = new Set(expectedOf(part, own));
  if (part.mark === 'to skim') {
    const [first] = [...expected];
    return new Set(open.filter((s) => s !== first));
  }
  return new Set(open.filter((s) => !expected.has(s)));
}

/** The steps of a part that its rule asks for, done ones among them. */
function expectedOf<S extends Step>({ rule }: PlanPart, own: readonly S[]): readonly S[] {
  if (rule.kind === 'all') return own;
  // What is done or begun is what somebody chose.
  const rank = (s: S) => (s.doneAt != null ? 0 : s.begun ? 1 : 2);
  if (rule.kind === 'any') {
    const chosen = new Set(own.toSorted((a, b) => rank(a) - rank(b)).slice(0, rule.n));
    return own.filter((s) => chosen.has(s));
  }
  const sets = STEP_SETS.map((set) => own.filter((s) => s.set === set)).filter((list) => list.length > 0);
  const further = (list: readonly S[]) => list.filter((s) => rank(s) < 2).length;
  return sets.toSorted((a, b) => further(b) - further(a))[0] ?? [];
}

/** Steps with those marked that are there to choose. A step whose part is gone is expected. */
export function withExpected<S extends Step>(
  parts: readonly PlanPart[],
  steps: readonly S[],
): (S & { readonly optional: boolean })[] {
  const optional = new Set(parts.flatMap((part) => [...optionalSteps(part, steps)]));
  return steps.map((s) => ({ ...s, optional: optional.has(s) }));
}
