/** An outcome with what comes before it and what it is part of. */
export interface LinkedOutcome {
  readonly id: string;
  readonly prerequisites: readonly string[];
  readonly parent?: string | null;
}

/**
 * A circle in a relation between ids, as the ids along it (the first is repeated at the end); null if there is none.
 * Ids that nothing is known of are passed over. Depth-first search with three colours (Cormen et al., Introduction to
 * Algorithms, 22.3: a graph has a circle exactly if the search meets an edge back).
 */
export function findCircle(ids: Iterable<string>, next: (id: string) => readonly string[]): string[] | null {
  const state = new Map<string, 'open' | 'done'>();
  const path: string[] = [];
  const visit = (id: string): string[] | null => {
    if (state.get(id) === 'done') return null;
    if (state.get(id) === 'open') return [...path.slice(path.indexOf(id)), id];
    state.set(id, 'open');
    path.push(id);
    for (const other of next(id)) {
      const found = visit(other);
      if (found) return found;
    }
    path.pop();
    state.set(id, 'done');
    return null;
  };
  for (const id of ids) {
    const found = visit(id);
    if (found) return found;
  }
  return null;
}

/**
 * A circle among the prerequisites of outcomes, or among what they are part of; null if there is none.
 *
 * @param from where to look: all of them, or those that changed in a set that had no circle
 */
export function outcomeCircle(
  byId: ReadonlyMap<string, LinkedOutcome>,
  from: readonly string[] = [...byId.keys()],
): { readonly among: 'prerequisites' | 'parents'; readonly ids: readonly string[] } | null {
  const known = (ids: readonly string[]) => ids.filter((id) => byId.has(id));
  const before = findCircle(from, (id) => known(byId.get(id)!.prerequisites));
  if (before) return { among: 'prerequisites', ids: before };
  const parts = findCircle(from, (id) => known(byId.get(id)!.parent ? [byId.get(id)!.parent!] : []));
  return parts ? { among: 'parents', ids: parts } : null;
}

/** The prerequisites of each outcome of a course by id, where outcomes name them by the ids of the files. */
export function prerequisitesById(
  outcomes: readonly {
    readonly id: number;
    readonly externalId: string;
    readonly prerequisites: readonly string[];
  }[],
): ReadonlyMap<string, readonly string[]> {
  const idOf = new Map(outcomes.map((o) => [o.externalId, String(o.id)]));
  return new Map(outcomes.map((o) => [String(o.id), o.prerequisites.flatMap((p) => idOf.get(p) ?? [])]));
}
