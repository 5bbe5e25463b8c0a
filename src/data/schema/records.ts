import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
} from 'drizzle-orm/pg-core';
import { at } from './columns';
import type { EventKind } from '@/core/activity/events';
import { user } from './auth';
import { activities, ofCourse } from './courses';
import { ofEnrolment } from './people';
import type { FileCounts } from '@/core/views/intake';

/** What students did, as it came in. */
export const events = pgTable(
  'events',
  {
    courseId: integer('course_id').notNull(),
    eventId: text('event_id').notNull(),
    enrolmentId: ofEnrolment(),
    at: at('at').notNull(),
    kind: text('kind').$type<EventKind>().notNull(),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    durationS: doublePrecision('duration_s'),
  },
  (t) => [
    primaryKey({ columns: [t.courseId, t.eventId] }),
    index('events_enrolment').on(t.enrolmentId, t.at),
  ],
);

/** The gradebook: one row a student and activity that anything is known of. */
export const scores = pgTable(
  'scores',
  {
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    submittedAt: at('submitted_at'),
    gradedAt: at('graded_at'),
    returnedAt: at('returned_at'),
    points: doublePrecision('points'),
    excused: boolean('excused').notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.activityId] })],
);

/** What was brought in, by whom and when. */
export const imports = pgTable('imports', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  courseId: ofCourse(),
  userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
  at: at('at').notNull(),
  files: jsonb('files').$type<FileCounts[]>().notNull(),
});
