import {
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
} from 'drizzle-orm/pg-core';
import type { Mapping } from '@/core/course/mapping';
import type { Attendance, RequirementKind } from '@/core/course/kinds';
import { user } from './auth';
import { at } from './columns';
import { activities, ofCourse } from './courses';
import { ofEnrolment } from './people';

/** Whether a student was there. */
export const attendance = pgTable(
  'attendance',
  {
    enrolmentId: ofEnrolment(),
    day: date('day').notNull(),
    meeting: text('meeting').notNull(),
    attendance: text('attendance').$type<Attendance>().notNull(),
    minutes: doublePrecision('minutes'),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.day, t.meeting] })],
);

/** What was reported of a student's conduct. */
export const referrals = pgTable(
  'referrals',
  {
    enrolmentId: ofEnrolment(),
    referralId: text('referral_id').notNull(),
    day: date('day').notNull(),
    reason: text('reason').notNull(),
    outcome: text('outcome'),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.referralId] })],
);

/** Credits and exams that a student needs. */
export const requirements = pgTable(
  'requirements',
  {
    enrolmentId: ofEnrolment(),
    requirement: text('requirement').notNull(),
    kind: text('kind').$type<RequirementKind>().notNull(),
    needed: doublePrecision('needed').notNull(),
    earned: doublePrecision('earned').notNull(),
    day: date('day'),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.requirement] })],
);

/** Answers to items. */
export const responses = pgTable(
  'responses',
  {
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'cascade' }),
    item: text('item').notNull(),
    attempt: integer('attempt').notNull(),
    answer: text('answer').notNull(),
    at: at('at'),
    score: doublePrecision('score'),
    /** How long it took, where the source says. */
    seconds: doublePrecision('seconds'),
    /** How many hints were taken before it. */
    hints: integer('hints'),
  },
  (t) => [
    unique('responses_once').on(t.enrolmentId, t.activityId, t.item, t.attempt).nullsNotDistinct(),
    index('responses_activity').on(t.activityId),
  ],
);

/** How somebody told to read files of a foreign make; used again by itself. */
export const mappings = pgTable(
  'mappings',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    /** Checked when read. */
    mapping: jsonb('mapping').$type<Mapping>().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [unique('mappings_name').on(t.courseId, t.name)],
);
