import { sql } from 'drizzle-orm';
import { boolean, date, index, integer, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import type { MailState } from '@/core/messages/mailState';
import type { Repeat } from '@/core/talks/times';
import { user } from './auth';
import { at } from './columns';
import { ofCourse } from './courses';
import { enrolments, ofEnrolment, persons } from './people';

/** Times at which an instructor can be seen by students of a course. */
export const talkTimes = pgTable(
  'talk_times',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    repeat: text('repeat').$type<Repeat>().notNull(),
    firstOn: date('first_on').notNull(),
    lastOn: date('last_on').notNull(),
    /** Minutes after midnight. */
    from: integer('from_minute').notNull(),
    until: integer('until_minute').notNull(),
    minutes: integer('minutes').notNull(),
    place: text('place').notNull(),
    seats: integer('seats').notNull(),
    /** Days on which they do not take place. */
    except: jsonb('except').$type<string[]>().notNull(),
    /** Whether everybody in the course can take one, or only whom they were offered to. */
    open: boolean('open').notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('talk_times_user').on(t.userId), index('talk_times_course').on(t.courseId)],
);

/** Talks that students took. */
export const talks = pgTable(
  'talks',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    timesId: integer('times_id').references(() => talkTimes.id, { onDelete: 'set null' }),
    /** Of the event in both calendars: the same for its life; a change counts the sequence up. */
    uid: text('uid').notNull().unique(),
    sequence: integer('sequence').notNull().default(0),
    startsAt: at('starts_at').notNull(),
    endsAt: at('ends_at').notNull(),
    place: text('place').notNull(),
    /** Of those who come at once, from 1. */
    seat: integer('seat').notNull(),
    cancelledAt: at('cancelled_at'),
    cancelledBy: text('cancelled_by').$type<'student' | 'staff'>(),
    /** Why, in words of whoever cancelled it. */
    why: text('why'),
    changedAt: at('changed_at').notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [
    index('talks_enrolment').on(t.enrolmentId),
    index('talks_course').on(t.courseId, t.startsAt),
    // The last guard against two who take the same seat.
    uniqueIndex('talks_seat')
      .on(t.userId, t.startsAt, t.seat)
      .where(sql`${t.cancelledAt} is null`),
  ],
);

/** E-mail that the application sends of itself: word of a talk, a reminder. */
export const letters = pgTable(
  'letters',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    /** What it says and of which state of it: the same is never written twice. */
    key: text('key').notNull().unique(),
    courseId: ofCourse(),
    /** Whom it goes to: a student, or somebody on the staff. */
    personId: integer('person_id').references(() => persons.id, { onDelete: 'cascade' }),
    userId: text('user_id').references(() => user.id, { onDelete: 'cascade' }),
    talkId: integer('talk_id').references(() => talks.id, { onDelete: 'cascade' }),
    /** The student whom it names. */
    enrolmentId: integer('enrolment_id').references(() => enrolments.id, { onDelete: 'cascade' }),
    toName: text('to_name').notNull(),
    email: text('email').notNull(),
    replyTo: text('reply_to'),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
    /** A calendar file that goes with it. */
    calendar: text('calendar'),
    calendarMethod: text('calendar_method').$type<'REQUEST' | 'CANCEL' | 'PUBLISH'>(),
    mailState: text('mail_state').$type<MailState>().notNull(),
    attempts: integer('attempts').notNull().default(0),
    mailError: text('mail_error'),
    goesAt: at('goes_at').notNull(),
    sentAt: at('sent_at'),
    createdAt: at('created_at').notNull(),
  },
  (t) => [index('letters_talk').on(t.talkId), index('letters_state').on(t.mailState)],
);
