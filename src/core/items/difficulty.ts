/** An answer as the measures of items need it. */
export interface ScoredResponse {
  readonly student: number;
  readonly item: string;
  readonly attempt: number;
  /** Share of what the item gives, 0 to 1; null if not scored yet. */
  readonly score: number | null;
}

export interface ItemDifficulty {
  readonly item: string;
  /** Students whose first answer has a score. */
  readonly answered: number;
  /** Mean score of first answers: 1 is an item that everybody gets right. Null if nobody has a score. */
  readonly p: number | null;
}

/**
 * The difficulty p of each item: the mean of the scores of first answers (for items that are right or wrong, the share
 * that got it right; classical test theory, Crocker and Algina 1986, chapter 14). Later attempts of the
 * same student do not count: they have seen the item. In the order of their names, numbers by their value.
 */
export function itemDifficulties(responses: readonly ScoredResponse[]): ItemDifficulty[] {
  const first = new Map<string, Map<number, ScoredResponse>>();
  for (const response of responses) {
    let ofItem = first.get(response.item);
    if (!ofItem) first.set(response.item, (ofItem = new Map()));
    const known = ofItem.get(response.student);
    if (!known || response.attempt < known.attempt) ofItem.set(response.student, response);
  }
  return [...first]
    .map(([item, ofItem]) => {
      const scores = [...ofItem.values()].flatMap((r) => r.score ?? []);
      const sum = scores.reduce((total, s) => total + s, 0);
      return { item, answered: scores.length, p: scores.length === 0 ? null : sum / scores.length };
    })
    .sort((a, b) => a.item.localeCompare(b.item, 'en', { numeric: true }));
}
