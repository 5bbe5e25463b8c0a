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

/**
 * The score by which a student gets a band. Excused gets none; missing, not graded or not returned waits. Of one attempt, or
 * none on record, the gradebook's points decide: they may have been changed by hand since.
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
  const known = attempts.filter((p) => p != null).length;
  const decides = known > 1 ? pointsOfAttempts(attempts, choice)! : points;
  return { percent: (100 * decides) / most };
}
