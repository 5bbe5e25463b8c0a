/** How an item counts: as it is scored, not at all, or as right for everybody. */
export const TREATMENTS = ['scored', 'dropped', 'given'] as const;
export type Treatment = (typeof TREATMENTS)[number];

/** An answer that an item offers, and what it says. */
export interface ItemOption {
  readonly option: string;
  readonly text: string;
}

/** The key of an item as it stands, and as it was before anybody changed it here. */
export interface ItemKey {
  /** Answers that are right; null while nobody has said so. */
  readonly keys: readonly string[] | null;
  readonly keysCame: readonly string[] | null;
  readonly treatment: Treatment;
}

/**
 * What an answer to an item counts by its key, 0 to 1; null where it counts nothing. Where the key was changed, an answer of
 * the new key is right and one of the old alone is wrong; what neither names stays as it was scored, so that shares of a
 * point are kept and a key that is changed back changes nothing. An answer that came without a score is scored by the key.
 *
 * The function `item_score` of the database says the same; a test holds them together.
 *
 * @param came the score that the answer came with, 0 to 1; null if it was not scored
 */
export function scoreOf(item: ItemKey | undefined, answer: string, came: number | null): number | null {
  if (!item || item.treatment === 'dropped') return item ? null : came;
  if (item.treatment === 'given') return 1;
  const said = answer.trim();
  const { keys, keysCame } = item;
  if (keys == null) return came;
  if (came == null) return said === '' ? null : keys.includes(said) ? 1 : 0;
  const was = keysCame ?? keys;
  if (keys.includes(said)) return was.includes(said) ? came : 1;
  return was.includes(said) ? 0 : came;
}

/** Whether two keys name the same answers, in whatever order. */
export const sameKeys = (a: readonly string[] | null, b: readonly string[] | null): boolean =>
  (a == null) === (b == null) &&
  new Set(a).size === new Set(b).size &&
  (a ?? []).every((k) => b!.includes(k));
