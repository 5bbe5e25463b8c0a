import type { Instant } from '../units';

/** A change that all who teach a course share, and who made it; null if their account is gone. */
export interface CourseLogLine {
  readonly id: number;
  readonly at: Instant;
  readonly what: string;
  readonly by: string | null;
}
