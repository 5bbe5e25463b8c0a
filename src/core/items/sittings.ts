import { groupBy } from '../groupBy';
import type { AnsweredItem } from './analysis';
import { firstAnswers, type ScoredResponse } from './firstAnswers';

/** An answer as it was given. */
export interface GivenAnswer extends ScoredResponse {
  readonly answer: string;
}

/** A quiz as it was sat: each student's first answer to each item. */
export interface Sitting {
  /** In the order of the scores of the items. */
  readonly students: readonly number[];
  readonly items: readonly (AnsweredItem & { readonly choices: readonly (string | null)[] })[];
  /** Items with an answer that is not scored yet: they are left out until all are. */
  readonly unscored: readonly string[];
}

/**
 * A quiz as a matrix of first answers: further attempts have seen the items. Whoever gave no answer to an item, or an empty
 * one, omitted it. An answer is right where everybody who gave it got the full score.
 */
export function sittingOf(responses: readonly GivenAnswer[]): Sitting {
  const students = [...new Set(responses.map((r) => r.student))].sort((a, b) => a - b);
  const unscored: string[] = [];
  const items: Sitting['items'][number][] = [];
  for (const { item, by: first } of firstAnswers(responses)) {
    if ([...first.values()].some((r) => r.score == null && r.answer.trim() !== '')) {
      unscored.push(item);
      continue;
    }
    const choices = students.map((id) => first.get(id)?.answer.trim() || null);
    const scores = students.map((id) => first.get(id)?.score ?? 0);
    const of = groupBy(
      choices.map((choice, i) => ({ choice, score: scores[i]! })),
      (c) => c.choice,
    );
    items.push({
      item,
      choices,
      scores,
      omitted: choices.filter((c) => c == null).length,
      keys: [...of].flatMap(([choice, given]) =>
        choice != null && given.every((g) => g.score >= 1) ? [choice] : [],
      ),
    });
  }
  return { students, items, unscored };
}
