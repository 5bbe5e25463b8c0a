import { wordStart } from './wordStart';

/** Something that can be found by its name. */
export interface Findable {
  readonly name: string;
}

/**
 * What a typed text finds: of each group those whose name fits (see `wordStart`), best first, and the group with the best
 * fit first. Equal fits keep the order given; a group in which nothing fits is left out.
 */
export function find<T extends Findable, G extends { readonly entries: readonly T[] }>(
  groups: readonly G[],
  typed: string,
): G[] {
  return groups
    .map((group) => {
      const fits = group.entries
        .map((entry) => ({ entry, fit: wordStart(entry.name, typed) }))
        .filter((e) => e.fit > 0)
        .sort((a, b) => b.fit - a.fit);
      return { group: { ...group, entries: fits.map((e) => e.entry) }, best: fits[0]?.fit ?? 0 };
    })
    .filter((g) => g.best > 0)
    .sort((a, b) => b.best - a.best)
    .map((g) => g.group);
}
