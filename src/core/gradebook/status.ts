import type { Instant } from '../units';
import type { Score } from '../course/gradebook';

export type WorkStatus =
  | 'not yet due'
  | 'no due date'
  | 'submitted'
  | 'late'
  | 'missing'
  | 'excused'
  | 'awaiting grade'
  | 'graded'
  | 'not assigned';

/** `before joining`: due before the student came; not held against them. */
export type CellStatus = WorkStatus | 'before joining';

interface Work {
  readonly due: Instant | null;
  /** Whether the work is graded at all. */
  readonly graded: boolean;
}

/** Something was handed in by then. */
export const isSubmitted = (score: Score | undefined, asOf: Instant): boolean =>
  score?.submitted != null && score.submitted <= asOf;

/** A grade was returned by then. */
export const isReturned = (score: Score | undefined, asOf: Instant): boolean =>
  score?.returned != null && score.returned <= asOf && score.points != null;

/** When a work is due for a student: their own extension, or else the due instant of the work. */
export const dueFor = (work: { readonly due: Instant | null }, score: Score | undefined): Instant | null =>
  score?.due ?? work.due;

/** The work is due for the student by then: the due instant is not after it. */
export function isDue(
  work: { readonly due: Instant | null },
  score: Score | undefined,
  asOf: Instant,
): boolean {
  const due = dueFor(work, score);
  return due != null && due <= asOf;
}

/**
 * Whether a student can no longer hand a work in: it has closed, and what was granted to the student alone does not
 * reach further.
 */
export function isClosed(
  work: { readonly closes: Instant | null },
  score: Score | undefined,
  asOf: Instant,
): boolean {
  const closes = score?.closes ?? work.closes;
  return closes != null && Math.max(closes, score?.due ?? -Infinity) <= asOf;
}

/** Due by then, not excused, and neither handed in nor returned by then. */
export function isMissing(
  work: { readonly due: Instant | null },
  score: Score | undefined,
  asOf: Instant,
): boolean {
  return (
    isDue(work, score, asOf) &&
    score?.excused !== true &&
    !isSubmitted(score, asOf) &&
    !(score?.returned != null && score.returned <= asOf)
  );
}

/** Handed in after it was due. */
export function isLate(
  work: { readonly due: Instant | null },
  score: Score | undefined,
  asOf: Instant,
): boolean {
  const due = dueFor(work, score);
  return isSubmitted(score, asOf) && due != null && score!.submitted! > due;
}

/** The status of one student's work as of an instant. A late hand-in stays `late` until it is graded. */
export function workStatus(work: Work, score: Score | undefined, asOf: Instant): WorkStatus {
  if (score?.notTheirs) return 'not assigned';
  if (score?.excused) return 'excused';
  if (isReturned(score, asOf)) return 'graded';
  if (isSubmitted(score, asOf)) {
    if (isLate(work, score, asOf)) return 'late';
    return work.graded ? 'awaiting grade' : 'submitted';
  }
  // Given back without points: somebody has seen it, whatever the source knows of the handing in.
  if (score?.returned != null && score.returned <= asOf) return work.graded ? 'awaiting grade' : 'submitted';
  if (isMissing(work, score, asOf)) return 'missing';
  return dueFor(work, score) == null ? 'no due date' : 'not yet due';
}
