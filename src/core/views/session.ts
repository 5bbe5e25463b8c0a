import type { Advance, CheckState } from '../activity/sessionCheck';
import type { Instant, LocalDate, Minutes } from '../units';
import type { ViewFrame } from './frame';

export interface CheckPiece {
  readonly activityId: number;
  readonly title: string;
  readonly minutes: Minutes;
  /** What it should take; null where the usual fifteen minutes are taken. */
  readonly estimated: Minutes | null;
  readonly views: number;
  readonly contributions: number;
  readonly advance: Advance;
}

export interface CheckRow {
  readonly enrolmentId: number;
  readonly name: string;
  readonly family: string;
  readonly section: string | null;
  readonly state: CheckState;
  readonly loggedIn: boolean;
  readonly minutes: Minutes;
  readonly last: Instant | null;
  readonly pieces: readonly CheckPiece[];
  /** Pieces handed in or worked on, and how many the period would allow. */
  readonly advanced: number;
  readonly allowed: number;
}

/** A meeting that a check can be set to. */
export interface MeetingChoice {
  readonly section: string;
  readonly sectionId: number;
  readonly from: Instant;
  readonly until: Instant;
}

/** One piece of one student on one day, for the report by day, week and month. */
export interface ReportLine {
  readonly day: LocalDate;
  readonly activityId: number;
  readonly title: string;
  readonly minutes: Minutes;
  readonly inClass: Minutes;
  readonly views: number;
  readonly contributions: number;
}

export const REPORT_SPANS = ['day', 'week', 'month'] as const;
export type ReportSpan = (typeof REPORT_SPANS)[number];

export interface Report {
  readonly enrolmentId: number;
  readonly name: string;
  readonly span: ReportSpan;
  readonly from: LocalDate;
  readonly to: LocalDate;
  readonly lines: readonly ReportLine[];
}

export interface SessionView extends ViewFrame {
  readonly from: Instant;
  readonly until: Instant;
  /** Minutes back from now, or null where a meeting sets the period. */
  readonly back: Minutes | null;
  readonly meetings: readonly MeetingChoice[];
  readonly rows: readonly CheckRow[];
  readonly report: Report | null;
}
