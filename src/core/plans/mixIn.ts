import { isResource, type ActivityKind } from '../course/kinds';

/** Activities that are proposed at a time. */
const MOST_MIXED = 4;

/**
 * Practice and pages on what the outcomes of some activities rest on: worth mixing in, so that what came before is not
 * forgotten. In course order, at most four, each with the outcome it is about.
 *
 * @param before the prerequisites of each outcome
 * @param covers the outcomes of each activity
 */
export function mixIn<A extends { readonly id: number; readonly kind: ActivityKind }>(
  activities: readonly A[],
  chosen: readonly number[],
  before: ReadonlyMap<string, readonly string[]>,
  covers: (activity: number) => readonly string[],
): readonly { readonly activity: A; readonly outcome: string }[] {
  const asked = new Set(chosen.flatMap(covers));
  const earlier = new Set([...asked].flatMap((o) => before.get(o) ?? []).filter((o) => !asked.has(o)));
  return activities
    .filter((a) => (a.kind === 'practice' || isResource(a.kind)) && !chosen.includes(a.id))
    .flatMap((activity) => {
      const outcome = covers(activity.id).find((o) => earlier.has(o));
      return outcome ? [{ activity, outcome }] : [];
    })
    .slice(0, MOST_MIXED);
}
