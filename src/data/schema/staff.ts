import type { Role } from '@/core/access/may';
import { at } from './columns';
import { index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { user } from './auth';
import { ofCourse } from './courses';

/** Who teaches which course. */
export const courseStaff = pgTable(
  'course_staff',
  {
    courseId: ofCourse(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    role: text('role').$type<Role>().notNull().default('instructor'),
    /** From when on the role is over; null if it does not end. */
    until: at('until'),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.userId] })],
);

/** What was changed in a course that all who teach it share, and by whom: the order and limits of its rules, say. */
export const courseLog = pgTable(
  'course_log',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    /** In words, without anything about a student. */
    what: text('what').notNull(),
  },
  (t) => [index('course_log_course').on(t.courseId, t.at)],
);
