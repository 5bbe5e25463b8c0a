import {
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import { at } from './columns';
import type { About } from '@/core/acts/pick';
import type { ActAnswer, ActKind } from '@/core/acts/act';
import { user } from './auth';
import { activities, ofCourse, outcomes } from './courses';
import { enrolments, ofEnrolment } from './people';
import type { MailState } from '@/core/messages/mailState';
import type { NoteKind } from '@/core/acts/act';
import type { Kept } from '@/core/acts/agreement';
import type { PassingResult } from '@/core/acts/passing';
import { talks } from './talks';
import type { StepSet } from '@/core/plans/design';
import { planDesigns } from './study';

const userId = () =>
  text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' });

export const messages = pgTable(
  'messages',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: userId(),
    /** Made by the page that composes: sending the same composition again finds this row. */
    key: text('key').notNull().unique(),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
    /** The text as the editor holds it; null of messages from before it did. Checked when read. */
    doc: jsonb('doc').$type<unknown>(),
    /** Why the recipients were picked, in words, and what it is about. */
    reason: text('reason').notNull(),
    about: text('about').$type<About>().notNull().default('other'),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    /** The item of it that the recipients answered. */
    item: text('item'),
    createdAt: at('created_at').notNull(),
    /** When it is to go. Until it has gone, nobody reads it and it can be called back. */
    goesAt: at('goes_at'),
    goneAt: at('gone_at'),
    /** Whether it offers the times at which its writer can be seen. */
    offersTalk: boolean('offers_talk').notNull().default(false),
    /** Whether its recipients read why they got it. */
    saysWhy: boolean('says_why').notNull().default(false),
  },
  (t) => [index('messages_course').on(t.courseId)],
);

export const recipients = pgTable(
  'recipients',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    messageId: integer('message_id')
      .notNull()
      .references(() => messages.id, { onDelete: 'cascade' }),
    enrolmentId: ofEnrolment(),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
    /** The text with its lists and links, filled for them; null where the plain one is all there is. Checked when read. */
    doc: jsonb('doc').$type<unknown>(),
    email: text('email'),
    mailState: text('mail_state').$type<MailState>().notNull(),
    attempts: integer('attempts').notNull().default(0),
    mailError: text('mail_error'),
    sentAt: at('sent_at'),
    readAt: at('read_at'),
  },
  (t) => [
    uniqueIndex('recipients_once').on(t.messageId, t.enrolmentId),
    index('recipients_enrolment').on(t.enrolmentId),
  ],
);

export const plans = pgTable(
  'plans',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    enrolmentId: ofEnrolment(),
    userId: userId(),
    recipientId: integer('recipient_id').references(() => recipients.id, { onDelete: 'set null' }),
    createdAt: at('created_at').notNull(),
    /** What changed last in it and why, in a line, and when. */
    said: text('said'),
    saidAt: at('said_at'),
    /** The design it was handed out from; null for one made for this student. */
    designId: integer('design_id').references(() => planDesigns.id, { onDelete: 'set null' }),
    title: text('title'),
    /** Checked when read. */
    parts: jsonb('parts').$type<unknown>().notNull().default([]),
  },
  (t) => [
    index('plans_enrolment').on(t.enrolmentId),
    index('plans_recipient').on(t.recipientId),
    // Each gets one plan of a design, whatever runs twice.
    uniqueIndex('plans_of_design').on(t.designId, t.enrolmentId),
  ],
);

export const planSteps = pgTable(
  'plan_steps',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    planId: integer('plan_id')
      .notNull()
      .references(() => plans.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    title: text('title').notNull(),
    minutes: integer('minutes').notNull(),
    on: date('on_day').notNull(),
    why: text('why').notNull(),
    doneAt: at('done_at'),
    /** The day it was for before that was missed; null if none was. */
    wasOn: date('was_on_day'),
    /** The part of the plan it belongs to, and its name in the design. */
    part: text('part'),
    designStep: text('design_step'),
    set: text('step_set').$type<StepSet>().notNull().default('a'),
    pinned: boolean('pinned').notNull().default(false),
    lessonAt: at('lesson_at'),
    place: text('place'),
    /** The outcome that a review is of. */
    outcomeId: integer('outcome_id').references(() => outcomes.id, { onDelete: 'set null' }),
    /** It is done by a further attempt, not by the one that was there. */
    further: boolean('further').notNull().default(false),
  },
  (t) => [index('plan_steps_plan').on(t.planId)],
);

/** What somebody wrote down about a student: a note, or a talk that took place. */
export const notes = pgTable(
  'notes',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    userId: userId(),
    kind: text('kind').$type<NoteKind>().notNull(),
    /** The day it is about, which need not be the day it was written. */
    on: date('on_day').notNull(),
    text: text('text').notNull(),
    /** The booked talk that it is of. */
    talkId: integer('talk_id').references(() => talks.id, { onDelete: 'set null' }),
    /** How a word in passing went. */
    result: text('result').$type<PassingResult>(),
    /** Made by the page that wrote it: what is sent twice is there once. */
    key: text('key').unique(),
    at: at('at').notNull(),
  },
  (t) => [index('notes_enrolment').on(t.enrolmentId), index('notes_talk').on(t.talkId)],
);

/** What was agreed at the end of a talk: the student sees it too, and both look at it on its day. */
export const agreements = pgTable(
  'agreements',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    userId: userId(),
    noteId: integer('note_id')
      .notNull()
      .references(() => notes.id, { onDelete: 'cascade' }),
    goal: text('goal').notNull(),
    /** What comes first. */
    step: text('step').notNull(),
    /** The day on which it is looked at. */
    on: date('on_day').notNull(),
    /** In the student's own words. */
    said: text('said').notNull(),
    at: at('at').notNull(),
    closedAt: at('closed_at'),
    closedAs: text('closed_as').$type<Kept>(),
  },
  (t) => [index('agreements_enrolment').on(t.enrolmentId), index('agreements_note').on(t.noteId)],
);

/** How somebody left a view of a course: its window and group, its columns. The content is checked when read. */
export const viewSettings = pgTable(
  'view_settings',
  {
    userId: userId(),
    courseId: ofCourse(),
    view: text('view').notNull(),
    value: jsonb('value').$type<unknown>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.userId, t.courseId, t.view] })],
);

/**
 * What somebody did about a student: who, when, why, which flags it answers and when to look again. What is particular
 * to a kind (the text of a message, of a note) stands in a table of its own.
 */
export const acts = pgTable(
  'acts',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    userId: userId(),
    kind: text('kind').$type<ActKind>().notNull(),
    /** The day it is about, which need not be the day it was recorded. */
    on: date('on_day').notNull(),
    /** The day to look again, and when somebody did. */
    followUpOn: date('follow_up_on'),
    followedUpAt: at('followed_up_at'),
    followedUpBy: text('followed_up_by').references(() => user.id, { onDelete: 'set null' }),
    reason: text('reason'),
    /** The flags it answers, as they stood. */
    answers: jsonb('answers').$type<ActAnswer[]>().notNull(),
    recipientId: integer('recipient_id').references(() => recipients.id, { onDelete: 'cascade' }),
    noteId: integer('note_id').references(() => notes.id, { onDelete: 'cascade' }),
    at: at('at').notNull(),
  },
  (t) => [
    index('acts_course').on(t.courseId, t.enrolmentId),
    index('acts_recipient').on(t.recipientId),
    index('acts_note').on(t.noteId),
  ],
);

/** Where an instructor is in Rounds, so that a reload or another device goes on there. */
export const roundPositions = pgTable(
  'round_positions',
  {
    userId: userId(),
    courseId: ofCourse(),
    enrolmentId: integer('enrolment_id').references(() => enrolments.id, { onDelete: 'set null' }),
    filter: text('filter').notNull(),
  },
  (t) => [primaryKey({ columns: [t.userId, t.courseId] })],
);

/** The selection tray: who was picked up, and why. */
export const trayItems = pgTable(
  'tray_items',
  {
    userId: userId(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    reason: text('reason').notNull(),
    about: text('about').$type<About>().notNull().default('other'),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    /** The item of it that they answered. */
    item: text('item'),
    /** The view they were selected in. */
    source: text('source').notNull().default(''),
    at: at('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.userId, t.courseId, t.enrolmentId] })],
);

/** Texts to begin with that somebody saved: their own, or of all who teach the course. */
export const templates = pgTable(
  'templates',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: userId(),
    shared: boolean('shared').notNull(),
    name: text('name').notNull(),
    about: text('about').$type<About>().notNull(),
    subject: text('subject').notNull(),
    /** Checked when read. */
    doc: jsonb('doc').$type<unknown>().notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('templates_course').on(t.courseId)],
);
