import type { CheckState, Piece } from '../activity/sessionCheck';
import type { Instant, LocalDate, Minutes } from '../units';
import type { ViewFrame } from './frame';

export interface CheckPiece extends Omit<Piece, 'activity'> {
  readonly activityId: number;
  readonly title: string;
  /** What it was planned to take, if that is known. */
  readonly planned: Minutes | null;
}

/** What one student did in the period. */
export interface OwnCheck {
  readonly state: CheckState;
  readonly minutes: Minutes;
  readonly last: Instant | null;
  readonly pieces: readonly CheckPiece[];
  /** How many activities would fit into the period. */
  readonly fit: number;
}

export interface CheckRow extends OwnCheck {
  readonly enrolmentId: number;
  readonly name: string;
  readonly family: string;
  readonly section: string | null;
  readonly loggedIn: boolean;
}

/** A meeting that a check can be set to. */
export interface MeetingChoice {
  readonly section: string;
  readonly sectionId: number;
  readonly from: Instant;
  readonly until: Instant;
}

/** One activity of one student on one day. */
export interface ReportLine {
  readonly day: LocalDate;
  readonly activityId: number;
  readonly title: string;
  readonly minutes: Minutes;
  readonly inClass: Minutes;
  readonly views: number;
  readonly contributions: number;
}

/** What one student did in the days of the window. */
export interface Report {
  readonly enrolmentId: number;
  readonly name: string;
  readonly minutes: Minutes;
  readonly inClass: Minutes;
  readonly days: number;
  readonly lines: readonly ReportLine[];
  /** Minutes in the course but in no activity. */
  readonly elsewhere: Minutes;
}

export interface SessionView extends ViewFrame {
  readonly from: Instant;
  readonly until: Instant;
  readonly running: boolean;
  /** Minutes back from now, or null where a meeting sets the period. */
  readonly back: Minutes | null;
  readonly meeting: MeetingChoice | null;
  readonly meetings: readonly MeetingChoice[];
  /** Minutes before a meeting ends at which a sign is given; 0 for none. */
  readonly signMinutes: Minutes;
  readonly rows: readonly CheckRow[];
  readonly report: Report | null;
}
