import { groupBy } from '../groupBy';
import { isTooQuick, type ItemNorm } from './effort';
import type { RecordedAnswer } from './sittings';
import { wayOf, type Way } from './trail';

/** What a student made of an item. */
export interface GridCell {
  /** Score of the first answer, 0 to 1; null while it is not scored. */
  readonly first: number | null;
  readonly answer: string;
  readonly way: Way;
  readonly tooQuick: boolean;
}

/** A student's answers to a quiz, by item; an item that is not there was not reached. */
export type GridRow = Readonly<Record<string, GridCell>>;

/**
 * The answers of each student to each item of a quiz: the first score, and whether it was put right later and how. Items that
 * were not reached are not there.
 */
export function answerGrid(
  answers: readonly RecordedAnswer[],
  norms: ReadonlyMap<string, ItemNorm>,
): Map<number, GridRow> {
  return new Map(
    [...groupBy(answers, (a) => a.student)].map(([student, own]) => [
      student,
      Object.fromEntries(
        [...groupBy(own, (a) => a.item)].map(([item, list]) => {
          const sorted = list.toSorted((a, b) => a.attempt - b.attempt);
          const first = sorted[0]!;
          const steps = sorted.flatMap((a) => [
            { answer: a.answer, score: a.score },
            ...(a.final === a.answer ? [] : [{ answer: a.final, score: a.finalScore }]),
          ]);
          return [
            item,
            {
              first: first.score,
              answer: first.answer,
              way: wayOf(steps),
              tooQuick: isTooQuick(first.seconds, norms.get(item)),
            },
          ];
        }),
      ),
    ]),
  );
}
