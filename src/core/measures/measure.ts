import type { DayFigures } from '../activity/dayFigures';
import type { DaySpan } from '../calendar/window';
import type { ActivityKind } from '../course/kinds';
import type { PartOfClass } from '../course/parts';
import type { GoalProgress } from '../outcomes/goals';
import type { Instant } from '../units';
import type { StudentMeasures, WindowTime } from './studentMeasures';

/** One student as measures see them: what is found of them as of an instant, and what they did in any days. */
export interface Subject {
  readonly id: number;
  /** The section and the groups they are in. */
  readonly parts?: readonly PartOfClass[];
  /** As of the last evaluation; null for somebody it has not seen yet. */
  readonly measured: StudentMeasures | null;
  /** The same so many days before, for comparing a student with their own past; null where it is not at hand. */
  readonly past?: (days: number) => StudentMeasures | null;
  /** Time in the last so many days, with the class beside it. */
  readonly time?: (days: number) => WindowTime | null;
  /** Sums over some days, for one kind of activity or all; null where nothing is at hand. */
  readonly figures?: (span: DaySpan, kind: ActivityKind | null) => DayFigures | null;
  /** First and last moment in some days. */
  readonly present?: (span: DaySpan) => { readonly first: Instant | null; readonly last: Instant | null };
  /** Assignments opened in some days with nothing done in them. */
  readonly openedOnly?: (span: DaySpan) => number;
  /** How far they are with the goal that is due next; null without one. */
  readonly goal?: GoalProgress | null;
  /** Level of the open flag of a kind; null without one. */
  readonly flag?: (kind: string) => 'watch' | 'act' | null;
}

/** What a measure is asked for, as far as it needs it. */
export interface Asked {
  /** The last so many days. */
  readonly days?: number;
  /** Days chosen on screen, with those before. */
  readonly window?: DaySpan & { readonly before: DaySpan | null };
  readonly kind?: ActivityKind | null;
  /** Kind of flag. */
  readonly flag?: string;
}

export type Need = 'days' | 'window' | 'class' | 'flag';

/** A figure of a student: it stands once, and tables, indicators, conditions and texts read it. */
export interface Measure {
  /** As on screen. */
  readonly name: string;
  readonly unit:
    | 'minutes'
    | 'days'
    | 'teaching days'
    | 'per cent'
    | 'points'
    | 'points a week'
    | 'share'
    | 'number'
    | 'instant';
  readonly needs: readonly Need[];
  /** As it is called within a sentence. What has no such name is nothing that people are chosen by. */
  readonly noun?: string;
  /** Its definition, behind the “i”. */
  readonly means: string;
  /** The figure; null where it is not known, which is neither much nor little. */
  readonly value: (of: Subject, asked: Asked) => number | null;
  /** What the figure rests on, where too little of it makes it unknown: graded assignments, minutes of the class. */
  readonly evidence?: (of: Subject, asked: Asked) => number;
  /** The figure in words, as a text or a table says it. */
  readonly words: (value: number) => string;
  /** What is said where it is not known. */
  readonly unknown: string;
}

/** Declares a measure, its type checked. */
export const measure = <M extends Measure>(m: M): M => m;
