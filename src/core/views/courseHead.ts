import type { Instant } from '../units';

/** What stands about a course on every view of it. */
export interface CourseHead {
  readonly code: string;
  readonly title: string;
  readonly termName: string;
  readonly zone: string;
  readonly week: number;
  readonly weeks: number;
  /** Instant of the latest event, and of the evaluation shown. */
  readonly dataUntil: Instant | null;
  readonly evaluatedAt: Instant | null;
}
