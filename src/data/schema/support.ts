import { date, index, integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import type { How } from '@/core/acts/checkIn';
import type { HelpingState } from '@/core/acts/helping';
import { user } from './auth';
import { at } from './columns';
import { ofCourse } from './courses';
import { enrolments, ofEnrolment } from './people';

/** One student helping another with a topic until a day, asked by somebody who teaches them. */
export const helpings = pgTable(
  'helpings',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    helpedId: integer('helped_id')
      .notNull()
      .references(() => enrolments.id, { onDelete: 'cascade' }),
    helperId: integer('helper_id')
      .notNull()
      .references(() => enrolments.id, { onDelete: 'cascade' }),
    topic: text('topic').notNull(),
    until: date('until_day').notNull(),
    state: text('state').$type<HelpingState>().notNull(),
    at: at('at').notNull(),
    changedAt: at('changed_at').notNull(),
  },
  (t) => [index('helpings_helped').on(t.helpedId), index('helpings_helper').on(t.helperId)],
);

/** What students said of how it goes and what is in the way. */
export const checkIns = pgTable(
  'check_ins',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    how: text('how').$type<How>().notNull(),
    /** Checked when read. */
    inTheWay: jsonb('in_the_way').$type<unknown>().notNull(),
    word: text('word').notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('check_ins_enrolment').on(t.enrolmentId)],
);

/** When somebody goes through a course each week, and is reminded. */
export const reviewTimes = pgTable(
  'review_times',
  {
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    courseId: ofCourse(),
    /** 1 Monday to 7 Sunday, and minutes after midnight. */
    weekday: integer('weekday').notNull(),
    minute: integer('minute').notNull(),
  },
  (t) => [primaryKey({ columns: [t.userId, t.courseId] })],
);
