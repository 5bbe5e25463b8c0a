import { integer, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { user } from './auth';
import { at } from './columns';
import { ofCourse } from './courses';

/** Students of a course by a condition that stays live, under a name. */
export const audiences = pgTable(
  'audiences',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    /** Checked when read. */
    where: jsonb('condition').$type<unknown>().notNull(),
    /** Enrolments that were added, or taken out, by hand. */
    added: jsonb('added').$type<number[]>().notNull(),
    removed: jsonb('removed').$type<number[]>().notNull(),
    at: at('at').notNull(),
  },
  (t) => [uniqueIndex('audiences_name').on(t.courseId, t.name)],
);
