import { integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { user } from './auth';
import { courses } from './courses';

/** Who teaches which course. */
export const courseStaff = pgTable(
  'course_staff',
  {
    courseId: integer('course_id')
      .notNull()
      .references(() => courses.id, { onDelete: 'cascade' }),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.userId] })],
);
