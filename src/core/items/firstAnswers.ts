import { groupBy } from '../groupBy';

/** An answer as the measures of items need it. */
export interface ScoredResponse {
  readonly student: number;
  readonly item: string;
  readonly attempt: number;
  /** Share of what the item gives, 0 to 1; null if not scored yet. */
  readonly score: number | null;
}

/** First answers to an item, by student. */
export interface FirstAnswers<R> {
  readonly item: string;
  readonly by: ReadonlyMap<number, R>;
}

const byName = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true });

/**
 * The first answer of each student to each item: later attempts have seen it. Items in the order of their names, numbers by
 * their value.
 */
export function firstAnswers<R extends ScoredResponse>(responses: readonly R[]): FirstAnswers<R>[] {
  return [...groupBy(responses, (r) => r.item)]
    .sort(([a], [b]) => byName(a, b))
    .map(([item, all]) => {
      const by = new Map<number, R>();
      for (const r of all) {
        const known = by.get(r.student);
        if (!known || r.attempt < known.attempt) by.set(r.student, r);
      }
      return { item, by };
    });
}
