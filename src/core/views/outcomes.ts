import type { OutcomeStanding } from '../outcomes/classByOutcome';
import type { MasteryLevel } from '../outcomes/mastery';
import type { Coverage } from '../outcomes/coverage';
import type { GoalLine } from './outcomeItems';
import type { ViewFrame } from './frame';

/** How far one student is with one outcome. */
export interface OutcomeCell {
  readonly mean: number;
  readonly low: number;
  readonly high: number;
  readonly level: MasteryLevel;
  /** Nothing about it for six weeks. */
  readonly old: boolean;
  /** What they saw of its items, where that was asked for. */
  readonly coverage?: Coverage | null;
}

export interface OutcomeRow {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  /** By id of the outcome; none where nothing is known. */
  readonly cells: Readonly<Record<number, OutcomeCell>>;
  /** Outcomes they have not reached yet. */
  readonly behind: number;
}

/** A small group, or a pair, by ids of students. */
export interface OutcomeGroup {
  readonly outcome: number;
  readonly members: readonly number[];
}

export interface OutcomesView extends ViewFrame {
  /** The worst first. */
  readonly outcomes: readonly OutcomeStanding[];
  readonly rows: readonly OutcomeRow[];
  readonly groups: readonly OutcomeGroup[];
  /** Who needs what fewer than three need. */
  readonly alone: readonly OutcomeGroup[];
  /** The helper first. */
  readonly pairs: readonly OutcomeGroup[];
  /** The one due first first. */
  readonly goals: readonly GoalLine[];
  readonly mayAct: boolean;
}
