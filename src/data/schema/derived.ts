import { getTableColumns, sql } from 'drizzle-orm';
import {
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  pgView,
  primaryKey,
  text,
  uniqueIndex,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { at } from './columns';
import type { MasteryLevel } from '@/core/outcomes/mastery';
import type { FlagDetail } from '@/core/flags/detail';
import type { FlagKind } from '@/core/flags/indicators';
import type { FlagLevel } from '@/core/flags/level';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import { activities, outcomes, ofCourse } from './courses';
import { enrolments, ofEnrolment } from './people';

/**
 * Sessions, days and works of a student are kept in versions, of which one holds: a long derivation prepares the next
 * beside it, and one short write to `enrolments` lets it hold for many students at once.
 */
const version = () => integer('version').notNull().default(0);

/** Whether a row is of the version that holds. */
export const holds = (rows: { readonly enrolmentId: AnyPgColumn; readonly version: AnyPgColumn }) =>
  sql`(${rows.enrolmentId}, ${rows.version}) in (select ${enrolments.id}, ${enrolments.version} from ${enrolments})`;

export const sessionRows = pgTable(
  'sessions',
  {
    enrolmentId: ofEnrolment(),
    version: version(),
    startedAt: at('started_at').notNull(),
    endedAt: at('ended_at').notNull(),
    seconds: doublePrecision('seconds').notNull(),
    events: integer('events').notNull(),
  },
  (t) => [index('sessions_enrolment').on(t.enrolmentId, t.version, t.startedAt)],
);

/** Those that hold: what everybody reads. */
export const sessions = pgView('sessions_now').as((qb) => {
  const { version: _, ...columns } = getTableColumns(sessionRows);
  return qb.select(columns).from(sessionRows).where(holds(sessionRows));
});

export const dayRows = pgTable(
  'day_totals',
  {
    enrolmentId: ofEnrolment(),
    version: version(),
    day: date('day').notNull(),
    seconds: doublePrecision('seconds').notNull(),
    inClassSeconds: doublePrecision('in_class_seconds').notNull(),
    logins: integer('logins').notNull(),
    events: integer('events').notNull(),
    views: integer('views').notNull().default(0),
    contributions: integer('contributions').notNull().default(0),
    /** The same day at session limits of 10, 30 and 60 minutes, to show how much the limit decides. */
    secondsAt10: doublePrecision('seconds_at_10').notNull().default(0),
    secondsAt30: doublePrecision('seconds_at_30').notNull().default(0),
    secondsAt60: doublePrecision('seconds_at_60').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.version, t.day] })],
);

/** Those that hold: what everybody reads. */
export const dayTotals = pgView('day_totals_now').as((qb) => {
  const { version: _, ...columns } = getTableColumns(dayRows);
  return qb.select(columns).from(dayRows).where(holds(dayRows));
});

/** What a student did with an activity on a local day. */
export const activityDayRows = pgTable(
  'activity_days',
  {
    enrolmentId: ofEnrolment(),
    version: version(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    day: date('day').notNull(),
    seconds: doublePrecision('seconds').notNull(),
    inClassSeconds: doublePrecision('in_class_seconds').notNull(),
    views: integer('views').notNull(),
    contributions: integer('contributions').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.activityId, t.day, t.enrolmentId, t.version] }),
    index('activity_days_enrolment').on(t.enrolmentId, t.activityId),
  ],
);

/** Those that hold: what everybody reads. */
export const activityDays = pgView('activity_days_now').as((qb) => {
  const { version: _, ...columns } = getTableColumns(activityDayRows);
  return qb.select(columns).from(activityDayRows).where(holds(activityDayRows));
});

/** The same over the whole term: who opened what, since when, and for how long. */
export const activityTotalRows = pgTable(
  'activity_totals',
  {
    enrolmentId: ofEnrolment(),
    version: version(),
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    firstDay: date('first_day').notNull(),
    lastDay: date('last_day').notNull(),
    /** First day on which something was done in it, rather than looked at. */
    firstContribution: date('first_contribution'),
    seconds: doublePrecision('seconds').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.enrolmentId, t.version, t.activityId] }),
    index('activity_totals_activity').on(t.activityId),
  ],
);

/** Those that hold: what everybody reads. */
export const activityTotals = pgView('activity_totals_now').as((qb) => {
  const { version: _, ...columns } = getTableColumns(activityTotalRows);
  return qb.select(columns).from(activityTotalRows).where(holds(activityTotalRows));
});

/** One student's term week, for the strips. */
export const studentWeeks = pgTable(
  'student_weeks',
  {
    enrolmentId: ofEnrolment(),
    week: integer('week').notNull(),
    days: integer('days').notNull(),
    seconds: doublePrecision('seconds').notNull(),
    inClassSeconds: doublePrecision('in_class_seconds').notNull(),
    done: integer('done').notNull(),
    expected: integer('expected').notNull(),
    standing: doublePrecision('standing'),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.week] })],
);

/** The class's term week: median time and the middle half of the standings. */
export const classWeeks = pgTable(
  'class_weeks',
  {
    courseId: ofCourse(),
    week: integer('week').notNull(),
    medianSeconds: doublePrecision('median_seconds').notNull(),
    standingLow: doublePrecision('standing_low'),
    standingMedian: doublePrecision('standing_median'),
    standingHigh: doublePrecision('standing_high'),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.week] })],
);

/** The measures of a student as of the last evaluation. */
export const measures = pgTable('measures', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  /** Copied out of the record for the order of the queue. */
  silence: integer('silence').notNull(),
  standing: doublePrecision('standing'),
  measures: jsonb('measures').$type<StudentMeasures>().notNull(),
});

export const masteries = pgTable(
  'masteries',
  {
    enrolmentId: ofEnrolment(),
    outcomeId: integer('outcome_id')
      .notNull()
      .references(() => outcomes.id, { onDelete: 'cascade' }),
    mean: doublePrecision('mean').notNull(),
    low: doublePrecision('low').notNull(),
    high: doublePrecision('high').notNull(),
    effective: doublePrecision('effective').notNull(),
    level: text('level').$type<MasteryLevel>().notNull(),
    /** Of the latest evidence. */
    askedAt: at('asked_at'),
  },
  (t) => [primaryKey({ columns: [t.enrolmentId, t.outcomeId] })],
);

/** What each outcome is measured against, as the last evaluation found it: it stands until the next. */
export const outcomePriors = pgTable('outcome_priors', {
  outcomeId: integer('outcome_id')
    .primaryKey()
    .references(() => outcomes.id, { onDelete: 'cascade' }),
  a: doublePrecision('a').notNull(),
  b: doublePrecision('b').notNull(),
});

/** Dwells of a student by kind and whole seconds, and what their sessions lean on; see `DwellCounts`. */
export const studentDwells = pgTable('student_dwells', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  /** Triples of kind, second and count. */
  counts: jsonb('counts').$type<number[]>().notNull(),
  /** Kinds whose class median the student's sessions use. */
  relies: jsonb('relies').$type<number[]>().notNull(),
  /** The student's own typical dwells: pairs of kind and milliseconds. */
  typical: jsonb('typical').$type<number[]>().notNull(),
});

/** What a student's dwells were before an instant that is the start of a session at every limit: it stays as it is. */
export const settled = pgTable('settled', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  until: at('until').notNull(),
  /** Triples of kind, second and count. */
  counts: jsonb('counts').$type<number[]>().notNull(),
  /** Kinds of the events that end a session. */
  ends: jsonb('ends').$type<number[]>().notNull(),
});

/** The same counts summed over the class: one row a kind. */
export const courseDwells = pgTable(
  'course_dwells',
  {
    courseId: ofCourse(),
    kind: integer('kind').notNull(),
    counts: jsonb('counts').$type<number[]>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.kind] })],
);

/** Students whose derived rows are behind their events. */
export const behind = pgTable('behind', {
  enrolmentId: integer('enrolment_id')
    .primaryKey()
    .references(() => enrolments.id, { onDelete: 'cascade' }),
  since: at('since').notNull(),
  /** Events have gone, rather than only come. */
  removed: boolean('removed').notNull().default(false),
});

/** Flags, open (closedOn null) and past. */
export const flags = pgTable(
  'flags',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    enrolmentId: ofEnrolment(),
    kind: text('kind').$type<FlagKind>().notNull(),
    level: text('level').$type<FlagLevel>().notNull(),
    openedOn: date('opened_on').notNull(),
    insideSince: date('inside_since'),
    /** The same as the last day that is over left it. */
    insideBefore: date('inside_before'),
    closedOn: date('closed_on'),
    detail: jsonb('detail').$type<FlagDetail>().notNull(),
  },
  // A student has one flag of a kind that opened on a day: evaluations find it by that, and it keeps its id.
  (t) => [uniqueIndex('flags_of_student').on(t.enrolmentId, t.kind, t.openedOn)],
);
