import { getTableColumns, sql, type SQL } from 'drizzle-orm';
import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  pgView,
  primaryKey,
  text,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { at } from './columns';
import type { EventKind } from '@/core/course/kinds';
import { user } from './auth';
import { activities, ofCourse } from './courses';
import { ofEnrolment } from './people';
import type { GradeAction, ScoreState } from '@/core/gradebook/changes';
import type { FileKind } from '@/core/course/records';
import type { FileCounts } from '@/core/views/intake';

/** What students did, as it came in. */
export const events = pgTable(
  'events',
  {
    courseId: integer('course_id').notNull(),
    eventId: text('event_id').notNull(),
    enrolmentId: ofEnrolment(),
    at: at('at').notNull(),
    kind: text('kind').$type<EventKind>().notNull(),
    activityId: integer('activity_id').references(() => activities.id, { onDelete: 'set null' }),
    durationS: doublePrecision('duration_s'),
    /** The import it came with; null if it came in live. */
    importId: integer('import_id'),
    /** The statement that told of it under an id of its own; null where the id says it, or no statement did. */
    ofStatement: text('of_statement'),
  },
  (t) => [
    primaryKey({ columns: [t.courseId, t.eventId] }),
    index('events_enrolment').on(t.enrolmentId, t.at),
    index('events_activity').on(t.activityId),
    index('events_import').on(t.courseId, t.importId),
  ],
);

/** The gradebook: one row a student and activity that anything is known of. */
export const scores = pgTable(
  'scores',
  {
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    submittedAt: at('submitted_at'),
    gradedAt: at('graded_at'),
    returnedAt: at('returned_at'),
    points: doublePrecision('points'),
    excused: boolean('excused').notNull().default(false),
    /** The student's own due instant, where the work was extended for them. */
    ownDueAt: at('own_due_at'),
    /** Attempts granted beyond what the activity allows. */
    extraAttempts: integer('extra_attempts').notNull().default(0),
    /** What statements handed in decides alone: nobody graded it here, and no gradebook file named it. */
    fromStatements: boolean('from_statements').notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.activityId] }), index('scores_activity').on(t.activityId)],
);

/** Each time a work was handed in, where the source tells them apart. */
export const attempts = pgTable(
  'attempts',
  {
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    submittedAt: at('submitted_at').notNull(),
    points: doublePrecision('points'),
  },
  (t) => [
    primaryKey({ columns: [t.enrolmentId, t.activityId, t.number] }),
    index('attempts_activity').on(t.activityId),
  ],
);

/** Every change that somebody made in the gradebook here: what stood before, and what after. */
export const scoreChanges = pgTable(
  'score_changes',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** Changes made together are undone together. */
    batch: text('batch').notNull(),
    enrolmentId: ofEnrolment(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    action: text('action').$type<GradeAction>().notNull(),
    before: jsonb('before').$type<ScoreState>().notNull(),
    after: jsonb('after').$type<ScoreState>().notNull(),
    undoneAt: at('undone_at'),
  },
  (t) => [
    index('score_changes_cell').on(t.enrolmentId, t.activityId),
    index('score_changes_batch').on(t.batch),
  ],
);

/** What was brought in, by whom and when. */
export const imports = pgTable(
  'imports',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    files: jsonb('files').$type<FileCounts[]>().notNull(),
    /** The job that brought it: one that is begun again after a kill does not bring it again. */
    jobId: text('job_id'),
    undoneAt: at('undone_at'),
    undoneBy: text('undone_by').references(() => user.id, { onDelete: 'set null' }),
    /** While it comes in nobody sees its rows. Until when that holds if its process is not heard of; null once it is in. */
    arrivingUntil: at('arriving_until'),
    /** The version of derived rows that it prepares. */
    version: integer('version'),
  },
  (t) => [
    index('imports_course').on(t.courseId),
    index('imports_job').on(t.jobId),
    index('imports_arriving')
      .on(t.id)
      .where(sql`${t.arrivingUntil} is not null`),
  ],
);

const arriving = sql`(select ${imports.id} from ${imports} where ${imports.arrivingUntil} is not null)`;

/** Whether a row came with an import that is still coming in, so that nobody sees it yet. */
export const isArriving = (row: { readonly importId: AnyPgColumn }): SQL =>
  sql`${row.importId} in ${arriving}`;

/** Whether a row is there for everybody. */
export const isSeen = (row: { readonly importId: AnyPgColumn }): SQL =>
  sql`(${row.importId} is null or ${row.importId} not in ${arriving})`;

/** Events that are there for everybody: what is read, but by what writes them. */
export const seenEvents = pgView('events_now').as((qb) =>
  qb.select(getTableColumns(events)).from(events).where(isSeen(events)),
);

/** What stood where an import wrote, so that it can be taken back. Events carry the number of their import instead. */
export const importChanges = pgTable(
  'import_changes',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    importId: integer('import_id')
      .notNull()
      .references(() => imports.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<FileKind>().notNull(),
    key: text('key').notNull(),
    /** The record as it stood; null if there was none. Checked when read. */
    before: jsonb('before').$type<unknown>(),
    after: jsonb('after').$type<unknown>().notNull(),
  },
  (t) => [index('import_changes_import').on(t.importId)],
);
