import { MINUTE_MS, type Instant } from '../units';

/**
 * The number of the sitting of each of some answers, 1 for the first: one ends where nothing was answered for longer than the
 * session limit of the course. The view `answers_now` says the same; a test holds them together.
 *
 * @param instants ascending
 */
export function sittingNumbers(instants: readonly Instant[], gapMinutes: number): number[] {
  let sitting = 1;
  return instants.map((at, i) => {
    if (i > 0 && at - instants[i - 1]! > gapMinutes * MINUTE_MS) sitting++;
    return sitting;
  });
}

/** How a student came to the right answer of an item. */
export type Way = 'at once' | 'later' | 'by trying' | 'not' | 'unknown';

/** Wrong answers of different kinds from which on a right one was come to by trying. */
const TRIED = 2;

/**
 * How somebody came to the right answer: at once, later, or only by trying (after two different wrong answers and more), not
 * yet, or unknown where nothing is scored. The steps in their order.
 */
export function wayOf(steps: readonly { readonly answer: string; readonly score: number | null }[]): Way {
  const scored = steps.filter((s) => s.score != null);
  if (scored.length === 0) return 'unknown';
  const right = scored.findIndex((s) => s.score! >= 1);
  if (right < 0) return 'not';
  if (right === 0) return 'at once';
  const tried = new Set(scored.slice(0, right).map((s) => s.answer.trim()));
  return tried.size >= TRIED ? 'by trying' : 'later';
}
