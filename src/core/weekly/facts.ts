import type { BandCuts } from '../gradebook/bands';
import type { MasteryLevel } from '../outcomes/mastery';
import type { Instant, Minutes, Percent } from '../units';

/** What the weekly look knows of one student, in the window and in the one before. */
export interface StudentFacts {
  readonly id: number;
  readonly studentId: string;
  readonly name: string;
  readonly section: string | null;
  readonly days: number;
  /** In the days that are compared: without breaks. */
  readonly minutes: Minutes;
  readonly minutesBefore: Minutes | null;
  /** Works due in the window that concern the student, and how many of them came on time. */
  readonly due: number;
  readonly onTime: number;
  readonly missing: number;
  readonly standing: Percent | null;
  /** As of the day before the window. */
  readonly standingBefore: Percent | null;
  readonly turned: 'up' | 'down' | null;
  readonly turnChange: number | null;
  /** Reasons of level act that opened in the window, as sentences. */
  readonly newActs: readonly string[];
  /** Whether any flag is open, of either level. */
  readonly flagged: boolean;
  /** Present silence against the usual gap, in teaching days. */
  readonly silence: number;
  readonly usualGap: number | null;
  readonly outcomes: ReadonlyMap<number, MasteryLevel>;
}

export interface WorkFacts {
  readonly id: number;
  readonly title: string;
  readonly due: Instant | null;
  /** All of its returned grades, and the low ones among them. */
  readonly graded: number;
  readonly low: number;
  readonly outcomes: readonly string[];
  readonly cuts: BandCuts;
  readonly inWindow: boolean;
  /** Due in the seven days after now. */
  readonly comesDue: boolean;
  readonly handedIn: number;
  readonly opened: number;
}

export interface WeeklyFacts {
  readonly students: readonly StudentFacts[];
  readonly works: readonly WorkFacts[];
  readonly outcomes: readonly { readonly id: number; readonly title: string }[];
  readonly closedFlags: number;
  readonly openedFlags: number;
}
