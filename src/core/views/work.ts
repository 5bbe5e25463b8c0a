import type { BandCuts } from '../gradebook/bands';
import type { Summary } from '../gradebook/distribution';
import type { ItemDifficulty } from '../items/difficulty';
import type { ActivityKind } from '../course/kinds';
import type { Instant, Minutes, Percent } from '../units';
import type { CellStatus } from '../gradebook/status';
import type { ViewFrame } from './frame';

export interface WorkRow {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  readonly status: CellStatus;
  readonly late: boolean;
  readonly points: number | null;
  readonly percent: Percent | null;
  readonly submitted: Instant | null;
  /** Hours from handing in to getting the grade back. */
  readonly feedbackHours: number | null;
  readonly attempts: number;
  readonly minutes: Minutes;
  readonly opened: boolean;
}

/** One work: how it went for the class, and for whom it did not. */
export interface WorkView extends ViewFrame {
  readonly id: number;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly category: string | null;
  readonly maximum: number | null;
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly estimated: Minutes | null;
  readonly outcomes: readonly string[];
  readonly rows: readonly WorkRow[];
  /** Of the points of the scope, of the whole course, and of each section. */
  readonly summary: Summary | null;
  readonly courseSummary: Summary | null;
  readonly sections: readonly { readonly name: string; readonly summary: Summary | null }[];
  readonly minutes: Summary | null;
  readonly feedback: Summary | null;
  readonly cuts: BandCuts;
  /** Difficulty of each item of a quiz or exam whose answers are known, for the scope. */
  readonly items: readonly ItemDifficulty[];
  readonly low: number;
  readonly graded: number;
  readonly before: number | null;
  readonly after: number | null;
}
