import type { Instant, LocalDate, Minutes } from '../units';
import { parseDate } from './day';
import { parseInstant } from './instant';
import type { TableSpec } from './table';

export const ATTENDANCE = ['present', 'late', 'absent', 'excused'] as const;
export type Attendance = (typeof ATTENDANCE)[number];

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

export const REQUIREMENT_KINDS = ['credits', 'exam'] as const;
export type RequirementKind = (typeof REQUIREMENT_KINDS)[number];

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
}

export const attendanceSpec: TableSpec<AttendanceRecord> = {
  required: ['student_id', 'day', 'attendance'],
  optional: ['meeting', 'minutes'],
  read: (row) => ({
    student: row.required('student_id'),
    day: row.requiredAs('day', parseDate, ''),
    meeting: row.optional('meeting') ?? '',
    attendance: row.oneOf('attendance', ATTENDANCE) ?? 'present',
    minutes: row.number('minutes', 0, 24 * 60),
  }),
};

export const referralsSpec: TableSpec<ReferralRecord> = {
  required: ['referral_id', 'student_id', 'day', 'reason'],
  optional: ['outcome'],
  read: (row) => ({
    id: row.required('referral_id'),
    student: row.required('student_id'),
    day: row.requiredAs('day', parseDate, ''),
    reason: row.required('reason', 1000),
    outcome: row.optional('outcome', 1000),
  }),
};

export const requirementsSpec: TableSpec<RequirementRecord> = {
  required: ['student_id', 'requirement', 'requirement_kind', 'needed', 'earned'],
  optional: ['day'],
  read: (row) => ({
    student: row.required('student_id'),
    requirement: row.required('requirement'),
    kind: row.oneOf('requirement_kind', REQUIREMENT_KINDS) ?? 'credits',
    needed: row.requiredNumber('needed', 0, 100_000),
    earned: row.number('earned', 0, 100_000) ?? 0,
    day: row.read('day', parseDate),
  }),
};

export const responsesSpec: TableSpec<ResponseRecord> = {
  required: ['student_id', 'item_id', 'answer'],
  optional: ['activity_id', 'at', 'attempt', 'score'],
  read: (row) => ({
    student: row.required('student_id'),
    activity: row.optional('activity_id'),
    item: row.required('item_id'),
    attempt: Math.round(row.number('attempt', 1, 1000) ?? 1),
    answer: row.optional('answer', 4000) ?? '',
    at: row.read('at', parseInstant),
    score: row.number('score', 0, 1),
  }),
};
