import type { Instant } from '../units';
import type { DueWork, ScoresByActivity } from '../course/gradebook';
import { dueFor, isDue, isMissing, isReturned, isSubmitted } from './status';

export interface Completion {
  /** Works expected by now that are handed in (late ones too) or returned with a grade. */
  readonly done: number;
  /** Works due by now and not excused. */
  readonly expected: number;
  /** Ids of the expected works that are not done, by due instant. */
  readonly missing: readonly string[];
  /** Everything handed in, due or not, less what is expected: above 0 is ahead. */
  readonly pace: number;
  /** Works without a due date, which are never expected. */
  readonly undated: number;
}

/** Completion of one student as of an instant. */
export function completion(works: readonly DueWork[], scores: ScoresByActivity, asOf: Instant): Completion {
  let done = 0;
  let expected = 0;
  let handedIn = 0;
  let undated = 0;
  const missing: { readonly id: string; readonly due: Instant }[] = [];
  for (const work of works) {
    if (work.due == null) undated++;
    const score = scores.get(work.id);
    if (score?.excused) continue;
    const isDone = isSubmitted(score, asOf) || isReturned(score, asOf);
    if (isDone) handedIn++;
    if (!isDue(work, score, asOf)) continue;
    expected++;
    if (isDone) done++;
    else if (isMissing(work, score, asOf)) missing.push({ id: work.id, due: dueFor(work, score)! });
  }
  missing.sort((a, b) => a.due - b.due);
  return { done, expected, missing: missing.map((w) => w.id), pace: handedIn - expected, undated };
}
