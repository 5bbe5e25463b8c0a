/** What a student saw of the items behind an outcome, apart from how well it went. */
export interface Coverage {
  /** Share of the items that they have answered, 0 to 1. */
  readonly seen: number;
  /** Mean score of their first answers to these; null without any. */
  readonly right: number | null;
}

/** An activity's part in it. */
export interface SeenPart {
  /** Items that the activity has. */
  readonly items: number;
  readonly seen: number;
  /** Sum of the first scores. */
  readonly right: number;
}

/** Coverage over the activities behind an outcome; null where these have no items at all. */
export function coverageOf(parts: readonly SeenPart[]): Coverage | null {
  const sum = (pick: (p: SeenPart) => number) => parts.reduce((total, p) => total + pick(p), 0);
  const [items, seen] = [sum((p) => p.items), sum((p) => p.seen)];
  if (items === 0) return null;
  return { seen: seen / items, right: seen === 0 ? null : sum((p) => p.right) / seen };
}

/** An outcome with all that is a part of it, by id. */
export function withParts(
  id: number,
  outcomes: readonly { readonly id: number; readonly parentId: number | null }[],
): Set<number> {
  const all = new Set([id]);
  for (let grew = true; grew;) {
    grew = false;
    for (const o of outcomes)
      if (o.parentId != null && all.has(o.parentId) && !all.has(o.id)) {
        all.add(o.id);
        grew = true;
      }
  }
  return all;
}
