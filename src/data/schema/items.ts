import { sql } from 'drizzle-orm';
import {
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  pgView,
  primaryKey,
  text,
} from 'drizzle-orm/pg-core';
import type { ItemKey, ItemOption, Treatment } from '@/core/items/treatment';
import { user } from './auth';
import { activities, ofCourse, outcomes } from './courses';
import { at } from './columns';
import { enrolments, ofEnrolment } from './people';
import { events } from './records';

const ofActivity = () =>
  integer('activity_id')
    .notNull()
    .references(() => activities.id, { onDelete: 'cascade' });

/** The items of assignments: what is asked, and what is right. Answers may name items that are not here. */
export const items = pgTable(
  'items',
  {
    activityId: ofActivity(),
    /** As the answers name it. */
    item: text('item').notNull(),
    stem: text('stem'),
    options: jsonb('options').$type<ItemOption[]>().notNull().default([]),
    /** Answers that are right; null while nobody has said so. */
    keys: jsonb('keys').$type<string[]>(),
    /** The same before anybody changed it here. */
    keysCame: jsonb('keys_came').$type<string[]>(),
    explanation: text('explanation'),
    treatment: text('treatment').$type<Treatment>().notNull().default('scored'),
    /** Counts the changes made here: two people do not change it at once. */
    rev: integer('rev').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.activityId, t.item] })],
);

/** Every change of a key made here, with the grades that followed it. */
export const itemChanges = pgTable(
  'item_changes',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    activityId: ofActivity(),
    item: text('item').notNull(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    /** Checked when read. */
    before: jsonb('before').$type<ItemKey>().notNull(),
    after: jsonb('after').$type<ItemKey>().notNull(),
    /** The grades that moved with it. */
    batch: text('batch').notNull(),
    moved: integer('moved').notNull(),
    undoneAt: at('undone_at'),
  },
  (t) => [index('item_changes_item').on(t.activityId, t.item)],
);

/** What a grade was before a key changed, with the share of the items then: where the changes are counted from. */
export const gradeBases = pgTable(
  'grade_bases',
  {
    enrolmentId: ofEnrolment(),
    activityId: ofActivity(),
    points: doublePrecision('points').notNull(),
    share: doublePrecision('share').notNull(),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.activityId] })],
);

/** Answers that came as statements, each with its event: where that goes, it goes. */
export const answerSteps = pgTable(
  'answer_steps',
  {
    courseId: integer('course_id').notNull(),
    eventId: text('event_id').notNull(),
    enrolmentId: ofEnrolment(),
    activityId: ofActivity(),
    item: text('item').notNull(),
    answer: text('answer').notNull(),
    /** Share of what the item gives; null if the statement does not say. */
    score: doublePrecision('score'),
    seconds: doublePrecision('seconds'),
    hints: integer('hints').notNull().default(0),
  },
  (t) => [
    primaryKey({ columns: [t.courseId, t.eventId] }),
    foreignKey({
      name: 'answer_steps_event',
      columns: [t.courseId, t.eventId],
      foreignColumns: [events.courseId, events.eventId],
    }).onDelete('cascade'),
    index('answer_steps_student').on(t.enrolmentId, t.activityId),
    index('answer_steps_activity').on(t.activityId, t.item),
  ],
);

/**
 * Every answer with what it counts by the key as it stands: `item_score` of the migrations says what `scoreOf` says. Those
 * of files as they came, one an attempt. Those of statements by sittings, which end where nothing was answered for longer
 * than the session limit of the course: the first answer of a sitting is the answer, the last is the final one. Where a
 * file brought the answers of a student to an assignment, statements about it are not counted beside them.
 */
export const answersNow = pgView('answers_now', {
  enrolmentId: integer('enrolment_id').notNull(),
  activityId: integer('activity_id'),
  item: text('item').notNull(),
  attempt: integer('attempt').notNull(),
  answer: text('answer').notNull(),
  final: text('final').notNull(),
  at: at('at'),
  seconds: doublePrecision('seconds'),
  hints: integer('hints').notNull(),
  /** The score that it came with. */
  came: doublePrecision('came'),
  score: doublePrecision('score'),
  finalScore: doublePrecision('final_score'),
}).as(sql`
  with gaps as (
    select st.*, e.at,
      case when e.at - lag(e.at) over sat > make_interval(mins => c.session_gap_minutes) then 1 else 0 end as begins
    from answer_steps st
    join events_now e on e.course_id = st.course_id and e.event_id = st.event_id
    join courses c on c.id = st.course_id
    window sat as (partition by st.enrolment_id, st.activity_id order by e.at, st.event_id)
  ), sittings as (
    select gaps.*, 1 + sum(begins) over (partition by enrolment_id, activity_id order by at, event_id)::int as attempt
    from gaps
  ), steps as (
    select enrolment_id, activity_id, item, attempt,
      first_value(answer) over of_item as answer, last_value(answer) over of_item as final,
      first_value(at) over of_item as at, first_value(seconds) over of_item as seconds,
      first_value(hints) over of_item as hints, first_value(score) over of_item as score,
      last_value(score) over of_item as final_score,
      row_number() over of_item as step
    from sittings
    window of_item as (partition by enrolment_id, activity_id, attempt, item order by at, event_id
      rows between unbounded preceding and unbounded following)
  ), told as (
    select enrolment_id, activity_id, item, attempt, answer, answer as final, at, seconds, coalesce(hints, 0) as hints,
      score, score as final_score
    from responses
    union all
    select enrolment_id, activity_id, item, attempt, answer, final, at, seconds, hints, score, final_score
    from steps
    where step = 1 and not exists (
      select 1 from responses r where r.enrolment_id = steps.enrolment_id and r.activity_id = steps.activity_id)
  )
  select told.enrolment_id, told.activity_id, told.item, told.attempt, told.answer, told.final, told.at, told.seconds,
    told.hints, told.score as came,
    item_score(told.score, told.answer, i.treatment, i.keys, i.keys_came) as score,
    item_score(told.final_score, told.final, i.treatment, i.keys, i.keys_came) as final_score
  from told left join items i on i.activity_id = told.activity_id and i.item = told.item`);

/** What the items of a course are measured against, as the last evaluation found it: it stands until the next. */
export const itemNorms = pgTable(
  'item_norms',
  {
    activityId: ofActivity(),
    item: text('item').notNull(),
    p: doublePrecision('p').notNull(),
    /** Fewer seconds are too few to read it; null where too few times are known. */
    least: doublePrecision('least'),
    usual: doublePrecision('usual'),
    choices: integer('choices').notNull(),
  },
  (t) => [primaryKey({ columns: [t.activityId, t.item] })],
);

/** Items whose key a student has seen and still does not understand: a word to those who teach. */
export const itemQuestions = pgTable(
  'item_questions',
  {
    enrolmentId: ofEnrolment(),
    activityId: ofActivity(),
    item: text('item').notNull(),
    at: at('at').notNull(),
    /** When somebody who teaches said that it is handled. */
    handledAt: at('handled_at'),
  },
  (t) => [
    primaryKey({ columns: [t.enrolmentId, t.activityId, t.item] }),
    index('item_questions_activity').on(t.activityId),
  ],
);

/** Results of tests outside the course, by outcome. */
export const outsideResults = pgTable(
  'tests',
  {
    enrolmentId: ofEnrolment(),
    outcomeId: integer('outcome_id')
      .notNull()
      .references(() => outcomes.id, { onDelete: 'cascade' }),
    at: at('at').notNull(),
    share: doublePrecision('share').notNull(),
    weight: doublePrecision('weight').notNull(),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.outcomeId, t.at] })],
);

/** Outcomes that are to be secure by a day: for the class, or for one student. */
export const goals = pgTable(
  'goals',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** Null for the whole class. */
    enrolmentId: integer('enrolment_id').references(() => enrolments.id, { onDelete: 'cascade' }),
    outcomeIds: jsonb('outcome_ids').$type<number[]>().notNull(),
    /** Which of them were secure when it was set, by student. Checked when read. */
    atStart: jsonb('at_start').$type<Record<string, number[]>>().notNull(),
    from: date('from_day').notNull(),
    by: date('by_day').notNull(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
  },
  (t) => [index('goals_course').on(t.courseId)],
);
