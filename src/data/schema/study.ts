import { boolean, date, index, integer, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import type { GivenChange, GivenTarget } from '@/core/plans/given';
import type { DesignState } from '@/core/plans/design';
import { user } from './auth';
import { at } from './columns';
import { activities, courses, ofCourse } from './courses';
import { enrolments, ofEnrolment, persons } from './people';

/** When a student learns, as they said: what is not said is what is usual for them. */
export const studyTimes = pgTable('study_times', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  minutesPerDay: integer('minutes_per_day').notNull(),
  /** 1 is Monday. */
  weekdaysOff: jsonb('weekdays_off').$type<number[]>().notNull(),
});

/** The private address of somebody's plans as a calendar: of the address only a hash is kept, and a new one ends the old. */
export const planFeeds = pgTable('plan_feeds', {
  personId: integer('person_id')
    .primaryKey()
    .references(() => persons.id, { onDelete: 'cascade' }),
  tokenHash: text('token_hash').notNull().unique(),
  madeAt: at('made_at').notNull(),
});

/** Study plans for a class, by the score of a quiz and by what a pre-check says. */
export const planDesigns = pgTable(
  'plan_designs',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** In whose name it hands out. */
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    title: text('title').notNull(),
    /** Checked when read. */
    design: jsonb('design').$type<unknown>().notNull(),
    state: text('state').$type<DesignState>().notNull(),
    /** When the instructor said that what is ready may go; null until then. */
    releasedAt: at('released_at'),
    changedAt: at('changed_at').notNull(),
  },
  (t) => [index('plan_designs_course').on(t.courseId)],
);

/** Up to where the plans of a course are up to date: which revision of it, and on which day. */
export const planCourses = pgTable('plan_courses', {
  courseId: integer('course_id')
    .primaryKey()
    .references(() => courses.id, { onDelete: 'cascade' }),
  rev: integer('rev').notNull().default(0),
  on: date('on_day'),
  /** Counts the changes of its designs, and up to which of them was looked. */
  designs: integer('designs').notNull().default(0),
  designsSeen: integer('designs_seen').notNull().default(0),
});

/** What was given to one student: an activity that is theirs, with their own dates. */
export const assignedActivities = pgTable(
  'assigned_activities',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    opensAt: at('opens_at'),
    dueAt: at('due_at'),
    closesAt: at('closes_at'),
    at: at('at').notNull(),
  },
  (t) => [
    uniqueIndex('assigned_once').on(t.enrolmentId, t.activityId),
    index('assigned_activity').on(t.activityId),
  ],
);

/** Each time something was given or removed: to whom, and what stood before, so that it can be undone. */
export const givenBatches = pgTable(
  'given_batches',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    words: text('words').notNull(),
    /** Who joins it before it opens gets it too; null where single students were selected. */
    target: text('target').$type<GivenTarget>(),
    opensAt: at('opens_at'),
    dueAt: at('due_at'),
    closesAt: at('closes_at'),
    activityIds: jsonb('activity_ids').$type<number[]>().notNull(),
    changes: jsonb('changes').$type<GivenChange[]>().notNull(),
    /** Activities that were everybody's until then. */
    narrowed: jsonb('narrowed').$type<number[]>().notNull(),
    /** The further attempts that were granted with it, in the gradebook's own history. */
    gradeBatch: text('grade_batch'),
    undoneAt: at('undone_at'),
  },
  (t) => [index('given_batches_course').on(t.courseId)],
);

/** What a student gets beyond the others: more time, as a share of what is given; being read to. */
export const accommodations = pgTable('accommodations', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  moreTime: integer('more_time_percent').notNull(),
  readAloud: boolean('read_aloud').notNull(),
});
