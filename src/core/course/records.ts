import type { Instant, LocalDate, Minutes, Percent, Seconds } from '../units';
import type { ItemOption } from '../items/treatment';
import type { ActivityKind, Attendance, EnrolmentStatus, EventKind, RequirementKind } from './kinds';

/** The kinds of record of a course, each a file of its own, in the order in which they are read: later ones refer to earlier ones. */
export const FILE_KINDS = [
  'outcomes',
  'activities',
  'items',
  'roster',
  'gradebook',
  'attempts',
  'attendance',
  'referrals',
  'requirements',
  'responses',
  'tests',
  'events',
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** Kinds of records that hang on a student, each known by a few of its fields; nothing else rests on them. */
export const LEDGER_KINDS = [
  'attempts',
  'attendance',
  'referrals',
  'requirements',
  'responses',
  'tests',
] as const;
export type LedgerKind = (typeof LEDGER_KINDS)[number];
export const isLedger = (kind: FileKind): kind is LedgerKind =>
  (LEDGER_KINDS as readonly string[]).includes(kind);

export interface OutcomeRecord {
  readonly id: string;
  readonly title: string;
  /** Ids of the outcomes that come before. */
  readonly prerequisites: readonly string[];
  /** Id of the outcome that it is part of. */
  readonly parent: string | null;
}

export interface ActivityRecord {
  readonly id: string;
  readonly title: string;
  readonly kind: ActivityKind;
  readonly category: string | null;
  readonly categoryWeight: Percent | null;
  readonly dropLowest: number;
  readonly points: number | null;
  readonly opens: Instant | null;
  readonly due: Instant | null;
  /** From when on it cannot be handed in any more. */
  readonly closes: Instant | null;
  readonly minutes: Minutes | null;
  /** How often it may be handed in; null for as often as one likes. */
  readonly attempts: number | null;
  readonly outcomes: readonly string[];
}

export interface RosterRecord {
  readonly id: string;
  readonly given: string;
  readonly family: string;
  readonly email: string | null;
  readonly section: string | null;
  readonly status: EnrolmentStatus;
  readonly joined: LocalDate | null;
  readonly left: LocalDate | null;
}

export interface GradebookRecord {
  readonly student: string;
  readonly activity: string;
  readonly submitted: Instant | null;
  readonly graded: Instant | null;
  readonly returned: Instant | null;
  readonly points: number | null;
  readonly excused: boolean;
  /** The student's own due instant, where the work was extended for them. */
  readonly due: Instant | null;
  /** Attempts granted beyond what the activity allows. */
  readonly extra: number;
}

/** One of several times that a work was handed in. */
export interface AttemptRecord {
  readonly student: string;
  readonly activity: string;
  readonly number: number;
  readonly submitted: Instant;
  readonly points: number | null;
}

export interface EventRecord {
  readonly id: string;
  readonly student: string;
  readonly at: Instant;
  readonly kind: EventKind;
  readonly activity: string | null;
  readonly duration: Seconds | null;
}

/** Whether a student was there on a day, or at one of several meetings of it. */
export interface AttendanceRecord {
  readonly student: string;
  readonly day: LocalDate;
  /** Tells meetings of one day apart; empty where there is one. */
  readonly meeting: string;
  readonly attendance: Attendance;
  /** Minutes present, where the source says. */
  readonly minutes: Minutes | null;
}

/** A conduct referral: somebody reported how a student behaved. */
export interface ReferralRecord {
  readonly id: string;
  readonly student: string;
  readonly day: LocalDate;
  readonly reason: string;
  /** What was done about it. */
  readonly outcome: string | null;
}

/** Credits that a student needs, or an exam that they must pass, and how far they are. */
export interface RequirementRecord {
  readonly student: string;
  readonly requirement: string;
  readonly kind: RequirementKind;
  /** Credits, or points of the exam. */
  readonly needed: number;
  readonly earned: number;
  /** The day of the latest entry. */
  readonly day: LocalDate | null;
}

/** One answer to one item of a quiz or exam. */
export interface ResponseRecord {
  readonly student: string;
  /** The quiz or exam; null where the source does not say. */
  readonly activity: string | null;
  readonly item: string;
  readonly attempt: number;
  readonly answer: string;
  readonly at: Instant | null;
  /** Share of what the item gives, from 0 to 1; null if not scored yet. */
  readonly score: number | null;
  /** How long it took, where the source says. */
  readonly seconds: Seconds | null;
  /** How many hints were taken before it. */
  readonly hints: number | null;
}

/** An item of an assignment: what is asked, and which answers are right. */
export interface ItemRecord {
  readonly activity: string;
  readonly item: string;
  readonly stem: string | null;
  readonly options: readonly ItemOption[];
  /** Answers that are right; none while nobody has said so. */
  readonly keys: readonly string[];
  readonly explanation: string | null;
}

/** What a test outside the course says of an outcome. */
export interface OutsideResult {
  readonly student: string;
  readonly outcome: string;
  readonly at: Instant;
  /** Share of what the test gives for it, 0 to 1. */
  readonly share: number;
  /** How many answers it is worth. */
  readonly weight: number;
}

/** The record type of each kind of file. */
export interface RecordOf {
  outcomes: OutcomeRecord;
  activities: ActivityRecord;
  items: ItemRecord;
  roster: RosterRecord;
  gradebook: GradebookRecord;
  attempts: AttemptRecord;
  attendance: AttendanceRecord;
  referrals: ReferralRecord;
  requirements: RequirementRecord;
  responses: ResponseRecord;
  tests: OutsideResult;
  events: EventRecord;
}
