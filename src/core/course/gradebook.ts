import type { Instant, Percent } from '../units';

/** How a course treats what is missing or late. */
export interface GradePolicy {
  /** A missing work counts as 0, or not at all. */
  readonly missing: 'zero' | 'ignore';
  /** Per cent of the maximum taken off for each started local day of lateness, and the most that is taken off. */
  readonly latePenalty?: { readonly perDay: Percent; readonly most: Percent };
}

export interface Category {
  readonly id: string;
  readonly weight: number;
  /** How many works of lowest per cent are left out. */
  readonly dropLowest: number;
}

/** A piece of graded coursework. */
export interface GradedActivity {
  readonly id: string;
  readonly category: string;
  /** Maximum; 0 for a bonus that only adds. */
  readonly points: number;
  readonly due: Instant | null;
  /** Points add to the category without adding to its maximum. */
  readonly extraCredit?: boolean;
}

/** What stands in the gradebook for one student and activity. */
export interface Score {
  readonly activity: string;
  readonly points: number | null;
  readonly excused: boolean;
  readonly submitted: Instant | null;
  readonly returned: Instant | null;
  /** The student's own due instant, where the work was extended for them or given to them with a date. */
  readonly due?: Instant | null;
  /** When it opens and closes for them, where that is their own. */
  readonly opens?: Instant | null;
  readonly closes?: Instant | null;
  /** It was given to others and not to them: it counts as excused, and is not expected of them. */
  readonly notTheirs?: boolean;
}

export interface Gradebook {
  readonly policy: GradePolicy;
  /** Of the course (IANA): a day of lateness is one by its clock. */
  readonly zone: string;
  readonly categories: readonly Category[];
  readonly activities: readonly GradedActivity[];
}

/** The scores of one student by activity. */
export type ScoresByActivity = ReadonlyMap<string, Score>;

/** What can be handed in, and by when. */
export interface DueWork {
  readonly id: string;
  readonly due: Instant | null;
}
