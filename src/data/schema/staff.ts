import type { Role } from '@/core/access/may';
import { at } from './columns';
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
    role: text('role').$type<Role>().notNull().default('instructor'),
    /** From when on the role is over; null if it does not end. */
    until: at('until'),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.userId] })],
);
