import {
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { at } from './columns';
import type { Meeting, MeetingException } from '@/core/calendar/meetings';
import type { Break } from '@/core/calendar/term';
import type { ActivityKind } from '@/core/course/kinds';
import type { ScoreBands } from '@/core/gradebook/bands';
import type { GradePolicy } from '@/core/course/gradebook';
import type { KeyShown } from '@/core/items/disclosure';
import type { AttemptPolicy } from '@/core/gradebook/attemptPolicy';
import type { IndicatorSettings } from '@/core/flags/indicators';
import { units } from './institution';

export const courses = pgTable('courses', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  code: text('code').notNull().unique(),
  unitId: integer('unit_id').references(() => units.id, { onDelete: 'set null' }),
  title: text('title').notNull(),
  termName: text('term_name').notNull(),
  zone: text('zone').notNull(),
  termStart: date('term_start').notNull(),
  termWeeks: integer('term_weeks').notNull(),
  breaks: jsonb('breaks').$type<Break[]>().notNull(),
  policy: jsonb('policy').$type<GradePolicy>().notNull(),
  indicators: jsonb('indicators').$type<IndicatorSettings>().notNull(),
  sessionGapMinutes: integer('session_gap_minutes').notNull(),
  /** Where the low and the high scores begin; null for the usual ones. */
  bands: jsonb('bands').$type<ScoreBands>(),
  /** Which of several attempts counts; null to leave it to whoever grades. */
  attemptPolicy: text('attempt_policy').$type<AttemptPolicy>(),
  /** Whether students see their standing. */
  showsStanding: boolean('shows_standing').notNull().default(true),
  /** Instant of the latest event, and the day and instant of the last evaluation of flags. */
  dataUntil: at('data_until'),
  evaluatedOn: date('evaluated_on'),
  evaluatedAt: at('evaluated_at'),
  /** Counts the evaluations: two may be as of one instant. */
  evaluations: integer('evaluations').notNull().default(0),
  /** What students type to join by themselves; null if nobody can. */
  joinCode: text('join_code').unique(),
  archivedAt: at('archived_at'),
  /** The import whose new people and assignments it holds until they are in; such a course is nobody's. */
  forImport: integer('for_import'),
  /** Counts what came in for its students; each student's own `rev` says when theirs last did. */
  rev: integer('rev').notNull().default(0),
  /** Counts what changes in how the course is set up, who is in it and by what names. */
  setupRev: integer('setup_rev').notNull().default(0),
});

/** The course that a row belongs to, and goes with. */
export const ofCourse = () =>
  integer('course_id')
    .notNull()
    .references(() => courses.id, { onDelete: 'cascade' });

export const sections = pgTable(
  'sections',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    name: text('name').notNull(),
    meetings: jsonb('meetings').$type<Meeting[]>().notNull(),
    /** Days on which it does not meet as usual. */
    exceptions: jsonb('exceptions').$type<MeetingException[]>().notNull().default([]),
  },
  (t) => [uniqueIndex('sections_name').on(t.courseId, t.name)],
);

export const categories = pgTable(
  'categories',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    name: text('name').notNull(),
    weight: doublePrecision('weight').notNull(),
    dropLowest: integer('drop_lowest').notNull().default(0),
  },
  (t) => [uniqueIndex('categories_name').on(t.courseId, t.name)],
);

export const activities = pgTable(
  'activities',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** The `activity_id` of the files. */
    externalId: text('external_id').notNull(),
    title: text('title').notNull(),
    kind: text('kind').$type<ActivityKind>().notNull(),
    categoryId: integer('category_id').references(() => categories.id, { onDelete: 'set null' }),
    points: doublePrecision('points'),
    opensAt: at('opens_at'),
    dueAt: at('due_at'),
    /** From when nothing is taken any more. */
    closesAt: at('closes_at'),
    minutes: integer('minutes'),
    /** How often it may be handed in; null for as often as one likes. */
    attemptsAllowed: integer('attempts_allowed'),
    position: integer('position').notNull(),
    extraCredit: boolean('extra_credit').notNull().default(false),
    /** It is theirs alone to whom it was given. */
    forSome: boolean('for_some').notNull().default(false),
    /** When students see its key. */
    keyShown: text('key_shown').$type<KeyShown>().notNull().default('closed'),
  },
  (t) => [uniqueIndex('activities_external').on(t.courseId, t.externalId)],
);

export const outcomes = pgTable(
  'outcomes',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    externalId: text('external_id').notNull(),
    title: text('title').notNull(),
    prerequisites: jsonb('prerequisites').$type<string[]>().notNull(),
    position: integer('position').notNull(),
    parentId: integer('parent_id').references((): AnyPgColumn => outcomes.id, { onDelete: 'set null' }),
  },
  (t) => [uniqueIndex('outcomes_external').on(t.courseId, t.externalId)],
);

/** The ids by which a source of packages knows a course and its parts: later packages may name no more than these. */
export const sourceIds = pgTable(
  'source_ids',
  {
    courseId: ofCourse(),
    kind: text('kind').$type<'course' | 'class' | 'category'>().notNull(),
    sourceId: text('source_id').notNull(),
    /** The section of a class; null for a class that stands for the whole course. */
    sectionId: integer('section_id').references(() => sections.id, { onDelete: 'cascade' }),
    categoryId: integer('category_id').references(() => categories.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.kind, t.sourceId] })],
);

/** Which outcomes an activity covers. */
export const activityOutcomes = pgTable(
  'activity_outcomes',
  {
    activityId: integer('activity_id')
      .notNull()
      .references(() => activities.id, { onDelete: 'cascade' }),
    outcomeId: integer('outcome_id')
      .notNull()
      .references(() => outcomes.id, { onDelete: 'cascade' }),
  },
  (t) => [
    primaryKey({ columns: [t.activityId, t.outcomeId] }),
    index('activity_outcomes_outcome').on(t.outcomeId),
  ],
);
