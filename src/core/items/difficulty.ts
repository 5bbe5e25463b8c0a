import { firstAnswers, type ScoredResponse } from './firstAnswers';

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
  return firstAnswers(responses).map(({ item, by }) => {
    const scores = [...by.values()].flatMap((r) => r.score ?? []);
    const sum = scores.reduce((total, s) => total + s, 0);
    return { item, answered: scores.length, p: scores.length === 0 ? null : sum / scores.length };
  });
}
