import { pointsOfAttempts } from '../gradebook/attemptPolicy';
import type { Percent } from '../units';
import type { AttemptChoice } from './design';

/** What is known of a student's score in a quiz: it decides, it has to be waited for, or none is to come. */
export type DecidingScore = { readonly percent: Percent } | 'waits' | 'excused';

export interface QuizResult {
  readonly excused: boolean;
  /** Whether a grade was returned by now. */
  readonly returned: boolean;
  /** Points that stand in the gradebook. */
  readonly points: number | null;
  /** Points of each attempt, in their order; null where they are not known. */
  readonly attempts: readonly (number | null)[];
}

/** Points that are those of one of the attempts, or their average: nobody has changed them since. */
function areOfAttempts(points: number, known: readonly number[]): boolean {
  const average = pointsOfAttempts(known, 'average');
  return known.includes(points) || (average != null && Math.abs(points - average) < 1e-9);
}

/**
 * The score by which a student gets a band. Excused gets none; missing, not graded or not returned waits. Points of the
 * gradebook that are none of the attempts' were given since, and decide; so they do where one attempt or none is on record.
 *
 * @param most the maximum of the quiz
 */
export function decidingScore(
  { excused, returned, points, attempts }: QuizResult,
  choice: AttemptChoice,
  most: number | null,
): DecidingScore {
  if (excused) return 'excused';
  if (!returned || points == null || !most) return 'waits';
  const known = attempts.filter((p) => p != null);
  const byAttempts = known.length > 1 && areOfAttempts(points, known);
  const decides = byAttempts ? pointsOfAttempts(known, choice)! : points;
  return { percent: (100 * decides) / most };
}
