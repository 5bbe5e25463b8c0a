import type { LevelChange } from '../outcomes/changed';
import type { Goal, GoalProgress } from '../outcomes/goals';
import type { DaySpan } from '../calendar/window';

/** An item behind an outcome, with the wrong answer that was given most. */
export interface ItemBehind {
  readonly activityId: number;
  readonly assignment: string;
  readonly item: string;
  readonly stem: string | null;
  readonly answered: number;
  /** Mean score of first answers; null while none is scored. */
  readonly right: number | null;
  readonly keys: readonly string[];
  readonly wrong: { readonly answer: string; readonly text: string; readonly count: number } | null;
}

/** A student with what they saw of an outcome's items, and what they take for what. */
export interface StudentBehind {
  readonly enrolmentId: number;
  readonly name: string;
  readonly seen: number;
  readonly of: number;
  /** Mean score of first answers; null without any. */
  readonly right: number | null;
  readonly wrong: readonly { readonly item: string; readonly answer: string; readonly key: string }[];
}

export interface OutcomeItemsView {
  /** The hardest first. */
  readonly items: readonly ItemBehind[];
  /** Who got least right first. */
  readonly students: readonly StudentBehind[];
}

/** What became of an outcome over the window. */
export interface OutcomeChange {
  readonly outcome: number;
  readonly title: string;
  readonly students: Readonly<Record<LevelChange, readonly { readonly id: number; readonly name: string }[]>>;
}

export interface OutcomeChangesView {
  readonly window: DaySpan;
  /** The most newly secure first. */
  readonly changes: readonly OutcomeChange[];
}

/** A goal with how far the class, or its student, is. */
export interface GoalLine extends Goal {
  readonly student: { readonly id: number; readonly name: string } | null;
  readonly titles: readonly string[];
  /** Of each it is for. */
  readonly progress: readonly (GoalProgress & { readonly id: number; readonly name: string })[];
}
