import { ATTENDANCE, REQUIREMENT_KINDS } from '../course/kinds';
import type {
  AttendanceRecord,
  ReferralRecord,
  RequirementRecord,
  ResponseRecord,
  OutsideResult,
} from '../course/records';
import { parseDate } from '../calendar/day';
import { parseInstant } from '../calendar/instant';
import type { TableSpec } from './table';

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
  optional: ['activity_id', 'at', 'attempt', 'score', 'seconds', 'hints'],
  read: (row) => ({
    student: row.required('student_id'),
    activity: row.optional('activity_id'),
    item: row.required('item_id'),
    attempt: Math.round(row.number('attempt', 1, 1000) ?? 1),
    answer: row.optional('answer', 4000) ?? '',
    at: row.read('at', parseInstant),
    score: row.number('score', 0, 1),
    seconds: row.number('seconds', 0, 1_000_000),
    hints: row.number('hints', 0, 1000),
  }),
};

export const testsSpec: TableSpec<OutsideResult> = {
  required: ['student', 'outcome', 'at', 'share', 'weight'],
  optional: [],
  read: (row) => ({
    student: row.required('student'),
    outcome: row.required('outcome'),
    at: row.requiredAs('at', parseInstant, 0),
    share: row.requiredNumber('share', 0, 1),
    weight: row.requiredNumber('weight', 0, 1000),
  }),
};
