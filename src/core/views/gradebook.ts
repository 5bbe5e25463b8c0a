import type { ScoreBands } from '../gradebook/bands';
import type { GradeAction, ScoreState } from '../gradebook/changes';
import type { Summary } from '../gradebook/distribution';
import type { CellStatus } from '../gradebook/status';
import type { ActivityKind } from '../course/kinds';
import type { Instant, Percent } from '../units';
import type { ViewFrame } from './frame';

/** One letter a status, so that sixty thousand cells stay small on their way to the page. */
export const STATUS_LETTERS: Readonly<Record<CellStatus, string>> = {
  'not yet due': '.',
  'no due date': '-',
  submitted: 's',
  late: 'l',
  missing: 'm',
  excused: 'x',
  'awaiting grade': 'a',
  graded: 'g',
  'before joining': 'b',
  'not assigned': 'o',
};
const BY_LETTER = new Map(Object.entries(STATUS_LETTERS).map(([s, letter]) => [letter, s as CellStatus]));
export const statusOfLetter = (letter: string): CellStatus => BY_LETTER.get(letter) ?? 'not yet due';

export interface GradeColumn {
  readonly id: number;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly categoryId: number | null;
  readonly points: number | null;
  readonly due: Instant | null;
  /** Titles of the outcomes it covers. */
  readonly outcomes: readonly string[];
  /** Figures of the grades in per cent; null where nothing is graded. */
  readonly summary: Summary | null;
}

export interface GradeRow {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  readonly standing: Percent | null;
  readonly missing: number;
  /** A letter a column (`STATUS_LETTERS`). */
  readonly statuses: string;
  /** Points a column, null where there are none. */
  readonly points: readonly (number | null)[];
  /** Columns whose graded work came late, by place. */
  readonly late: readonly number[];
}

export interface GradebookView extends ViewFrame {
  readonly categories: readonly {
    readonly id: number;
    readonly name: string;
    readonly weight: Percent;
    readonly dropLowest: number;
  }[];
  readonly columns: readonly GradeColumn[];
  readonly rows: readonly GradeRow[];
  readonly standing: Summary | null;
  readonly bands: ScoreBands;
  readonly studentsSeeStanding: boolean;
  readonly hidesStanding: boolean;
}

export interface AttemptView {
  readonly number: number;
  readonly submitted: Instant;
  readonly points: number | null;
  /** Time on this work since the attempt before. */
  readonly minutes: number;
  readonly note: string;
}

export interface ChangeView {
  readonly id: number;
  readonly action: GradeAction;
  readonly by: string | null;
  readonly at: Instant;
  readonly before: ScoreState;
  readonly after: ScoreState;
  readonly undone: boolean;
}

/** Everything about one student's work. */
export interface CellView {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly student: string;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly maximum: number | null;
  readonly status: CellStatus;
  readonly state: ScoreState;
  readonly due: Instant | null;
  readonly attemptsAllowed: number | null;
  readonly attempts: readonly AttemptView[];
  readonly minutes: number;
  readonly changes: readonly ChangeView[];
}

export interface CellRef {
  readonly enrolmentId: number;
  readonly activityId: number;
}

/** What stood in the cell when the change was made on screen; a difference means that somebody else was faster. */
export interface SeenCell extends CellRef {
  readonly seen: { readonly points: number | null; readonly excused: boolean };
}

export interface Conflict extends CellRef {
  readonly student: string;
  readonly title: string;
  readonly points: number | null;
  readonly excused: boolean;
  readonly by: string | null;
  readonly at: Instant | null;
}

export interface Changed {
  /** To undo by; null if nothing was changed. */
  readonly batch: string | null;
  readonly changed: number;
  readonly conflicts: readonly Conflict[];
}
