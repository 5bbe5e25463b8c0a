import type { Happened } from '../acts/happened';
import type { Attendance, RequirementKind } from '../course/kinds';
import type { MailState } from '../messages/mailState';
import type { MasteryLevel } from '../outcomes/mastery';
import type { StudentMeasures } from '../measures/studentMeasures';
import type { Instant, LocalDate, Minutes, Percent } from '../units';
import type { NoteView } from './notes';
import type { PlanView } from './plan';
import type { ReasonView } from './reason';
import type { RosterEntry } from './rosterEntry';

/** One week of the strips, with the class beside it. */
export interface StripWeek {
  readonly week: number;
  readonly isBreak: boolean;
  /** Null for weeks to come. */
  readonly own: {
    readonly days: number;
    readonly minutesInClass: Minutes;
    readonly minutesOutside: Minutes;
    readonly done: number;
    readonly expected: number;
    readonly standing: Percent | null;
  } | null;
  readonly classMedianMinutes: Minutes | null;
  readonly classStanding: { readonly low: Percent; readonly high: Percent } | null;
}

export interface OutcomeView {
  readonly id: number;
  readonly title: string;
  readonly mean: number;
  readonly low: number;
  readonly high: number;
  readonly effective: number;
  readonly level: MasteryLevel;
}

export interface SentView {
  readonly messageId: number;
  readonly recipientId: number;
  readonly subject: string;
  readonly body: string;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
  readonly mailState: MailState;
  readonly readAt: Instant | null;
}

export interface MarkLine {
  readonly action: string;
  readonly on: LocalDate;
  readonly until: LocalDate | null;
  readonly reason: string | null;
  readonly by: string;
}

/** One work with its attempts, the latest due first. */
export interface AttemptsLine {
  readonly activityId: number;
  readonly title: string;
  readonly due: Instant | null;
  readonly maximum: number | null;
  readonly first: { readonly at: Instant; readonly points: number | null };
  readonly best: number | null;
  readonly last: { readonly at: Instant; readonly points: number | null };
  readonly count: number;
}

/** What happened since the last talk or call. */
export interface SinceTalk extends Happened {
  readonly on: LocalDate;
  readonly by: string;
}

export interface BriefView {
  readonly student: RosterEntry;
  readonly zone: string;
  readonly week: number;
  readonly lastSeen: Instant | null;
  readonly measures: StudentMeasures | null;
  readonly reasons: readonly ReasonView[];
  readonly pastFlags: readonly ReasonView[];
  readonly missing: readonly string[];
  readonly weeks: readonly StripWeek[];
  readonly outcomes: readonly OutcomeView[];
  readonly plans: readonly PlanView[];
  readonly sent: readonly SentView[];
  readonly marks: readonly MarkLine[];
  /** Only on the page of its own. */
  readonly more: BriefMore | null;
}

/** What a course has on record about a student beside work and activity. */
export interface BesideView {
  readonly attendance: {
    /** Meetings by what the register says. */
    readonly counts: Readonly<Record<Attendance, number>>;
    /** Days of absence and lateness, the latest first. */
    readonly exceptions: readonly { readonly day: LocalDate; readonly attendance: Attendance }[];
  } | null;
  readonly referrals: readonly {
    readonly day: LocalDate;
    readonly reason: string;
    readonly outcome: string | null;
  }[];
  readonly requirements: readonly {
    readonly requirement: string;
    readonly kind: RequirementKind;
    readonly needed: number;
    readonly earned: number;
  }[];
}

/** What the page of a student has beyond the panel beside the queue. */
export interface BriefMore {
  readonly notes: readonly NoteView[];
  readonly sinceTalk: SinceTalk | null;
  readonly attempts: readonly AttemptsLine[];
  readonly beside: BesideView;
  readonly today: LocalDate;
  readonly standingTrend: string;
}
