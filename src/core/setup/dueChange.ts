import type { Score } from '../course/gradebook';
import { workStatus, type WorkStatus } from '../gradebook/status';
import type { Instant } from '../units';

/** A student whose status another due instant changes. */
export interface StatusChange {
  readonly id: number;
  readonly from: WorkStatus;
  readonly to: WorkStatus;
}

/**
 * Whose status changes if a work becomes due at another instant (or never, null), before anything is changed. Who has
 * an extension of their own keeps it.
 */
export function dueChange(
  students: readonly { readonly id: number; readonly score: Score | undefined }[],
  graded: boolean,
  before: Instant | null,
  after: Instant | null,
  now: Instant,
): StatusChange[] {
  return students.flatMap(({ id, score }) => {
    const from = workStatus({ due: before, graded }, score, now);
    const to = workStatus({ due: after, graded }, score, now);
    return from === to ? [] : [{ id, from, to }];
  });
}
