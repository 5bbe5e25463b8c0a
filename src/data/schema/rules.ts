import {
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { About } from '@/core/acts/pick';
import type { OccasionState, RuleSwitch } from '@/core/unasked/states';
import { recipients } from './acts';
import { user } from './auth';
import { at } from './columns';
import { activities, courses, ofCourse } from './courses';
import { ofEnrolment } from './people';

/** Rules that write to students, or tell their instructor, unasked. */
export const rules = pgTable(
  'rules',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** In whose name it writes. */
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** The starter it was made from, with its numbers; null for one of their own. */
    starter: text('starter'),
    numbers: jsonb('numbers').$type<unknown>().notNull(),
    /** When, of whom and what: checked when read. */
    parts: jsonb('parts').$type<unknown>().notNull(),
    about: text('about').$type<About>().notNull(),
    /** The first in the list writes first. */
    position: integer('position').notNull(),
    state: text('state').$type<RuleSwitch>().notNull(),
    /** Why it paused by itself. */
    why: text('why'),
    /** Since when it is on as it is: nothing from before makes it act. */
    since: at('since'),
    /** The last day that was judged for what holds. */
    judgedOn: date('judged_on'),
    /** Since when the data are too old for it; null if they are not. */
    staleAt: at('stale_at'),
    changedAt: at('changed_at').notNull(),
  },
  (t) => [index('rules_course').on(t.courseId)],
);

const ruleId = () =>
  integer('rule_id')
    .notNull()
    .references(() => rules.id, { onDelete: 'cascade' });

/** Since when the condition of a rule holds of a student. */
export const ruleHolds = pgTable(
  'rule_holds',
  {
    ruleId: ruleId(),
    enrolmentId: ofEnrolment(),
    since: date('since_day').notNull(),
    spent: boolean('spent').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.enrolmentId] })],
);

/** What a rule came upon: each occasion once, with the numbers it rested on and what became of it. */
export const occasions = pgTable(
  'occasions',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    ruleId: ruleId(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    key: text('key').notNull(),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    /** Checked when read. */
    facts: jsonb('facts').$type<unknown>().notNull(),
    state: text('state').$type<OccasionState>().notNull(),
    /** Why it was held back. */
    why: text('why'),
    /** When its message goes. */
    goesAt: at('goes_at'),
    recipientId: integer('recipient_id').references(() => recipients.id, { onDelete: 'set null' }),
    settledAt: at('settled_at'),
    settledBy: text('settled_by').references(() => user.id, { onDelete: 'set null' }),
  },
  (t) => [
    uniqueIndex('occasions_once').on(t.ruleId, t.enrolmentId, t.key),
    index('occasions_course').on(t.courseId, t.state),
    index('occasions_enrolment').on(t.enrolmentId),
    index('occasions_recipient').on(t.recipientId),
  ],
);

/** Grades that rules have seen come in. */
export const gradesSeen = pgTable(
  'grades_seen',
  {
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.activityId] })],
);

/** Up to when the rules of a course have looked, and at which revision of it; and what keeps them from too much. */
export const ruleCourses = pgTable('rule_courses', {
  courseId: integer('course_id')
    .primaryKey()
    .references(() => courses.id, { onDelete: 'cascade' }),
  lookedAt: at('looked_at'),
  rev: integer('rev').notNull().default(0),
  /** Checked when read; null for the usual ones. */
  guards: jsonb('guards').$type<unknown>(),
});
