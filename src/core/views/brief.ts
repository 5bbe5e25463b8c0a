import type { AccommodationForm } from '../forms/give';
import type { OwnAssignment } from './assignment';
import type { Agreement } from '../acts/agreement';
import type { CheckIn } from '../acts/checkIn';
import type { Contact } from '../acts/contact';
import type { HelpingLine } from '../acts/helping';
import type { OwnTalk } from './talks';
import type { ViewFrame } from './frame';
import type { Report } from './session';
import type { Happened } from '../acts/happened';
import type { Attendance, RequirementKind } from '../course/kinds';
import type { ReplyView } from './conversation';
import type { MessageDoc } from '../messages/doc';
import type { MailState } from '../messages/mailState';
import type { MasteryLevel } from '../outcomes/mastery';
import type { StudentMeasures } from '../measures/studentMeasures';
import type { Instant, LocalDate, Minutes, Percent } from '../units';
import type { NoteView } from './notes';
import type { PlanView } from '../plans/plan';
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
  readonly level: MasteryLevel;
  /** There is evidence, but none of the last six weeks. */
  readonly old: boolean;
}

export interface SentView {
  readonly messageId: number;
  readonly recipientId: number;
  readonly subject: string;
  readonly doc: MessageDoc;
  /** When it goes; null if it has gone. */
  readonly goesAt: Instant | null;
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

/** What happened since the last talk or call. */
export interface SinceTalk extends Happened {
  readonly on: LocalDate;
  readonly by: string;
}

export interface BriefView {
  readonly student: RosterEntry;
  readonly zone: string;
  /** The instant as of which it is. */
  readonly at: Instant;
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
  readonly answers: readonly ReplyView[];
  readonly mailFault: { readonly why: string; readonly at: Instant } | null;
  readonly marks: readonly MarkLine[];
  /** Talks that are to come, the next first. */
  readonly talks: readonly OwnTalk[];
  readonly agreements: readonly Agreement[];
  /** What the student said last of how it goes: circumstances, never a score. */
  readonly checkIn: CheckIn | null;
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
  /** Everything that was said, the latest first. */
  readonly contacts: readonly Contact[];
  readonly helpings: readonly HelpingLine[];
  readonly sinceTalk: SinceTalk | null;
  readonly assignments: readonly OwnAssignment[];
  readonly beside: BesideView;
  readonly accommodation: AccommodationForm;
  readonly today: LocalDate;
  readonly standingTrend: string;
}

/** The brief as a page of its own, with what was done in the days of the window. */
export interface BriefPageView extends ViewFrame {
  readonly brief: BriefView;
  readonly report: Report;
}
