import type { EffortGroup } from '../activity/effort';
import type { Summary } from '../gradebook/distribution';
import type { ActivityKind } from '../course/kinds';
import type { LocalDate, Minutes, Percent } from '../units';
import type { MeasureKey } from '../measures/registry';
import type { ViewFrame } from './frame';

export const ACTIVITY_TABS = ['people', 'class', 'resources', 'effort'] as const;
export type ActivityTab = (typeof ACTIVITY_TABS)[number];

export const ACTIVITY_COLUMNS = [
  'days',
  'minutes',
  'minutesBefore',
  'inClass',
  'outside',
  'views',
  'contributions',
  'opened',
  'first',
  'last',
  'usualGap',
  'silence',
] as const satisfies readonly MeasureKey[];
export type ActivityColumn = (typeof ACTIVITY_COLUMNS)[number];

/** What the activity of students can be narrowed to. */
export const ACTIVITY_SHOWS = ['all', 'away', 'quiet', 'opened'] as const;
export type ActivityShow = (typeof ACTIVITY_SHOWS)[number];
export const isActivityShow = (text: string | null | undefined): text is ActivityShow =>
  ACTIVITY_SHOWS.some((s) => s === text);

/** What one student did in the window, with the window before. */
export interface ActivityRow extends Readonly<Record<ActivityColumn, number | null>> {
  readonly enrolmentId: number;
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly section: string | null;
  readonly minutes: Minutes;
  /** What the student can be narrowed to: see `activityShows`. */
  readonly shows: readonly ActivityShow[];
  readonly lastSeen: LocalDate | null;
  /** Minutes and days of each week of the term so far, from week 1. */
  readonly weeks: readonly { readonly minutes: Minutes; readonly inClass: Minutes; readonly days: number }[];
}

export interface ResourceRow {
  readonly id: number;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly openedBy: number;
  readonly views: number;
  readonly minutes: Minutes;
  readonly contributions: number;
  /** Students who had handed it in by the end of the window; null for what is never handed in. */
  readonly handedIn: number | null;
  /** Students of the scope who never opened it up to the end of the window. */
  readonly never: readonly number[];
}

export interface ClassFigures {
  readonly minutes: readonly Minutes[];
  readonly minutesBefore: readonly Minutes[] | null;
  readonly now: Summary | null;
  /** Minutes by weekday and hour on the course's clock. */
  readonly hours: readonly (readonly Minutes[])[];
  readonly inClassShare: Percent | null;
  /** Over the sections that met in both windows. */
  readonly inClassCompared: { readonly now: Percent | null; readonly before: Percent | null } | null;
  /** Minutes of the class at session limits of 10, 30 and 60 minutes. */
  readonly atLimits: readonly { readonly limit: number; readonly minutes: Minutes }[];
  readonly sessionLimit: number;
}

/** What progress can be measured by. */
export const PROGRESS = ['standing', 'completion'] as const;
export type Progress = (typeof PROGRESS)[number];

export interface EffortRow {
  readonly enrolmentId: number;
  readonly name: string;
  readonly minutes: Minutes;
  readonly progress: Readonly<Record<Progress, Percent | null>>;
  readonly group: Readonly<Record<Progress, EffortGroup | null>>;
}

/** Time against progress: the students looked at, and the relation of the whole class. */
export interface EffortFigures {
  readonly rows: readonly EffortRow[];
  readonly medianMinutes: Minutes;
  /** By minutes, ascending. */
  readonly band: Readonly<
    Record<Progress, readonly { readonly minutes: Minutes; readonly low: Percent; readonly high: Percent }[]>
  >;
}

export interface ActivityView extends ViewFrame {
  readonly tab: ActivityTab;
  /** Of the days that are compared, without breaks. */
  readonly comparedMedians: { readonly now: Minutes; readonly before: Minutes } | null;
  readonly people: readonly ActivityRow[];
  readonly figures: ClassFigures | null;
  readonly resources: readonly ResourceRow[] | null;
  readonly effort: EffortFigures | null;
  readonly columns: readonly ActivityColumn[];
}
