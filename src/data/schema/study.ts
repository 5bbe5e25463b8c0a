import { integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { at } from './columns';
import { enrolments, persons } from './people';

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
