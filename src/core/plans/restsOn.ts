/** What rests on what, by the outcomes that activities cover and the prerequisites of these, however far back. */
export function restsOnBy(
  before: ReadonlyMap<string, readonly string[]>,
  covers: (activity: number) => readonly string[],
): (activity: number, other: number) => boolean {
  const known = new Map<string, ReadonlySet<string>>();
  const allBefore = (outcome: string): ReadonlySet<string> => {
    const found = known.get(outcome);
    if (found) return found;
    const all = new Set<string>();
    // Found before it is complete, so that a circle ends.
    known.set(outcome, all);
    for (const b of before.get(outcome) ?? []) {
      all.add(b);
      for (const further of allBefore(b)) all.add(further);
    }
    return all;
  };
  return (activity, other) => {
    const below = covers(other);
    return (
      below.length > 0 && covers(activity).some((o) => below.some((b) => b !== o && allBefore(o).has(b)))
    );
  };
}
