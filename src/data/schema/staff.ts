import { pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
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
  },
  (t) => [primaryKey({ columns: [t.courseId, t.userId] })],
);
