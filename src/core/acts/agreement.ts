import type { Instant, LocalDate } from '../units';

/** What became of what was agreed. */
export const KEPT = ['kept', 'in part', 'not kept'] as const;
export type Kept = (typeof KEPT)[number];

/** What an instructor and a student agreed on at the end of a talk. */
export interface Agreement {
  readonly id: number;
  readonly goal: string;
  /** What comes first. */
  readonly step: string;
  /** The day on which both look at it. */
  readonly on: LocalDate;
  /** In the student's own words; empty if nothing was written down. */
  readonly said: string;
  readonly with: string;
  readonly at: Instant;
  readonly closedAs: Kept | null;
}
