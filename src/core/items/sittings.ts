import { groupBy } from '../groupBy';
import type { Instant, Seconds } from '../units';
import type { AnsweredItem } from './analysis';
import { firstAnswers, type ScoredResponse } from './firstAnswers';
import type { Keys } from './rekey';

/** An answer as it was given. */
export interface GivenAnswer extends ScoredResponse {
  readonly answer: string;
}

/** The same with all that is on record of it. */
export interface RecordedAnswer extends GivenAnswer {
  /** The last answer of the same sitting. */
  readonly final: string;
  readonly finalScore: number | null;
  /** The score that it came with. */
  readonly came: number | null;
  readonly at: Instant | null;
  readonly seconds: Seconds | null;
}

/** A quiz as it was sat: each student's first answer to each item. */
export interface Sitting {
  /** In the order of the scores of the items. */
  readonly students: readonly number[];
  readonly items: readonly (AnsweredItem & { readonly choices: readonly (string | null)[] })[];
  /** Items with an answer that is not scored yet: they are left out until all are. */
  readonly unscored: readonly string[];
  /** Items that count for nobody. */
  readonly dropped: readonly string[];
}

/** Answers to an item that are right where nobody said so: those that everybody who gave it got in full. */
export function keysByScores(
  answers: readonly { readonly answer: string; readonly score: number | null }[],
): string[] {
  const given = groupBy(
    answers.filter((a) => a.answer.trim() !== ''),
    (a) => a.answer.trim(),
  );
  return [...given].flatMap(([answer, all]) => (all.every((a) => (a.score ?? 0) >= 1) ? [answer] : []));
}

/**
 * A quiz as a matrix of first answers: further attempts have seen the items. Whoever gave no answer to an item, or an empty
 * one, omitted it. An answer is right by the key, or where nobody has said what is right by how it was scored.
 *
 * @param keys of the items of which anything is known
 */
export function sittingOf(responses: readonly GivenAnswer[], keys: Keys = new Map()): Sitting {
  const students = [...new Set(responses.map((r) => r.student))].sort((a, b) => a - b);
  const unscored: string[] = [];
  const dropped: string[] = [];
  const items: Sitting['items'][number][] = [];
  for (const { item, by: first } of firstAnswers(responses)) {
    const key = keys.get(item);
    if (key?.treatment === 'dropped') {
      dropped.push(item);
      continue;
    }
    if ([...first.values()].some((r) => r.score == null && r.answer.trim() !== '')) {
      unscored.push(item);
      continue;
    }
    const choices = students.map((id) => first.get(id)?.answer.trim() || null);
    items.push({
      item,
      choices,
      scores: students.map((id) => (key?.treatment === 'given' ? 1 : (first.get(id)?.score ?? 0))),
      omitted: choices.filter((c) => c == null).length,
      keys: key?.keys ?? keysByScores([...first.values()]),
    });
  }
  return { students, items, unscored, dropped };
}
