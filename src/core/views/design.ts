import type { ActivityKind } from '../course/kinds';
import type { DesignState, PlanDesign } from '../plans/design';
import type { PlanProgress } from '../plans/progress';
import type { Percent } from '../units';

/** A plan design in the list of a course. */
export interface DesignLine {
  readonly id: number;
  readonly title: string;
  readonly state: DesignState;
  /** The quiz whose score decides; null for none, or one that is gone. */
  readonly quiz: string | null;
  readonly handedOut: number;
}

/** A student in a band of a design. */
export interface BandStudent {
  readonly id: number;
  readonly name: string;
  readonly percent: Percent;
  /** How the plan goes that they were given; null if they have none yet. */
  readonly goes: PlanProgress | null;
}

/** Everything that a plan design is written from, and what it would do. */
export interface DesignView {
  readonly id: number;
  readonly state: DesignState;
  readonly released: boolean;
  readonly design: PlanDesign;
  readonly activities: readonly {
    readonly id: number;
    readonly title: string;
    readonly kind: ActivityKind;
    readonly minutes: number | null;
    readonly points: number | null;
  }[];
  readonly outcomes: readonly { readonly id: number; readonly title: string }[];
  /** Items of the quizzes that could be a pre-check, by activity. */
  readonly items: Readonly<Record<number, readonly string[]>>;
  /** Who has a score by which they get a band, by name. */
  readonly students: readonly BandStudent[];
  /** How many wait for a score, and how many get none since they are excused. */
  readonly waiting: number;
  readonly excused: number;
  /** Students who have a plan of it. */
  readonly handedOut: number;
  /** Why it cannot be switched on as it is stored; null if it can. */
  readonly fault: string | null;
  /** What it names that is not there any more. */
  readonly gone: readonly string[];
}
