import type { ActivityKind } from '../course/kinds';
import type { Instant } from '../units';
import type { CellStatus } from '../gradebook/status';

/** One assignment as it stands for one student. */
export interface OwnAssignment {
  readonly id: number;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly due: Instant | null;
  readonly status: CellStatus;
  readonly late: boolean;
  /** Once they are returned. */
  readonly points: number | null;
  readonly maximum: number | null;
  readonly submitted: Instant | null;
  /** When the grade came back. */
  readonly feedbackAt: Instant | null;
  /** Points of each attempt on record, in order; null while it is to be graded. */
  readonly attempts: readonly (number | null)[];
  /** Titles of the outcomes it covers. */
  readonly outcomes: readonly string[];
}
