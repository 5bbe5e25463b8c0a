import type { Direction } from '../gradebook/trendWords';
import type { Turn } from '../gradebook/turns';
import type { Instant, Minutes, Percent } from '../units';
import type { ViewFrame } from './frame';

export interface StandingWeek {
  readonly week: number;
  readonly isBreak: boolean;
  /** Middle half and median of the standings of the course; null while too few have one. */
  readonly course: { readonly low: Percent; readonly median: Percent; readonly high: Percent } | null;
  /** Median of the group looked at, where it is not the whole course. */
  readonly group: Percent | null;
}

export interface TrendRow {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  readonly standing: Percent | null;
  readonly weeks: readonly (Percent | null)[];
  readonly direction: Direction;
  readonly relativePerWeek: number | null;
  readonly sentence: string;
  readonly turn: Turn | null;
  readonly turned: 'down' | 'up' | null;
  /** At or over the class median of time in the last four weeks. */
  readonly works: boolean;
  readonly minutes: Minutes;
}

export interface WorkFigures {
  readonly id: number;
  readonly title: string;
  readonly due: Instant | null;
  readonly graded: number;
  readonly course: { readonly low: Percent; readonly median: Percent; readonly high: Percent } | null;
  readonly group: Percent | null;
  readonly student: Percent | null;
}

export interface TrendsView extends ViewFrame {
  readonly groupName: string | null;
  readonly weeks: readonly StandingWeek[];
  readonly rows: readonly TrendRow[];
  readonly works: readonly WorkFigures[];
  readonly student: { readonly id: number; readonly name: string } | null;
}
