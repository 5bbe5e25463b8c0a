import { asc, eq, sql } from 'drizzle-orm';
import type { ClassRecord } from '@/core/risk/classRecord';
import type { StudentMeasures } from '@/core/risk/measures';
import type { Stretch } from '@/core/activity/heat';
import type { MasteryLevel } from '@/core/outcomes/mastery';
import type { LocalDate, Percent } from '@/core/units';
import type { Database } from '@/data/database';
import { courses, dayTotals, enrolments, masteries, measures, sessions, studentWeeks } from '@/data/schema';
import { database } from '../database';
import { loadClassRecord } from './classRecord';
import { loadCourseModel, type CourseModel, type CourseRow } from './courseModel';
import { loadScores, type FullScore } from './scores';

export interface DayRow {
  readonly day: LocalDate;
  readonly seconds: number;
  readonly inClassSeconds: number;
  readonly views: number;
  readonly contributions: number;
  readonly at10: number;
  readonly at30: number;
  readonly at60: number;
}

/** What is known of a course at one version of it, each part read when it is first asked for. Never to be changed. */
export interface Snapshot {
  readonly version: string;
  readonly model: () => Promise<CourseModel>;
  readonly scores: () => Promise<ReadonlyMap<number, ReadonlyMap<string, FullScore>>>;
  readonly days: () => Promise<ReadonlyMap<number, readonly DayRow[]>>;
  /** Sessions of each student, ascending. */
  readonly sessions: () => Promise<ReadonlyMap<number, readonly Stretch[]>>;
  /** Level of each outcome, by student. */
  readonly levels: () => Promise<ReadonlyMap<number, ReadonlyMap<number, MasteryLevel>>>;
  readonly record: () => Promise<ClassRecord>;
  readonly measures: () => Promise<ReadonlyMap<number, StudentMeasures>>;
  /** Standings of the term weeks from the first, by student. */
  readonly standings: () => Promise<ReadonlyMap<number, readonly (Percent | null)[]>>;
}

/** Courses kept at a time: an instructor looks at few, and a large one takes some ten megabytes. */
const MOST_KEPT = 12;
const kept = new WeakMap<Database, Map<number, Snapshot>>();

/**
 * The snapshot of a course as it stands in the database. Views ask for the same tables again and again while nothing
 * changes; the version, one cheap row, says whether they may be used again. It is read from the database, so what
 * another process wrote is seen too.
 */
export async function snapshotOf(course: CourseRow): Promise<Snapshot> {
  const db = await database();
  let ofDatabase = kept.get(db);
  if (!ofDatabase) kept.set(db, (ofDatabase = new Map()));
  const version = await versionOf(db, course);
  const known = ofDatabase.get(course.id);
  if (known?.version === version) return known;
  const fresh = snapshotAt(db, course, version);
  ofDatabase.delete(course.id);
  ofDatabase.set(course.id, fresh);
  if (ofDatabase.size > MOST_KEPT) ofDatabase.delete(ofDatabase.keys().next().value!);
  return fresh;
}

async function versionOf({ orm }: Database, course: CourseRow): Promise<string> {
  const [row] = await orm
    .select({
      course: courses,
      imports: sql<string>`(select coalesce(max(id), 0) from imports where course_id = ${course.id})`,
      changes: sql<string>`(select coalesce(max(id), 0) || '-' || count(undone_at) from score_changes where course_id = ${course.id})`,
    })
    .from(courses)
    .where(eq(courses.id, course.id));
  return JSON.stringify(row);
}

/** Reads once, and again if reading failed. */
function once<T>(read: () => Promise<T>): () => Promise<T> {
  let reading: Promise<T> | null = null;
  return () =>
    (reading ??= read().catch((error: unknown) => {
      reading = null;
      throw error;
    }));
}

function snapshotAt(db: Database, course: CourseRow, version: string): Snapshot {
  const model = once(() => loadCourseModel(db, course.id));
  const scores = once(() => loadScores(db, course.id));
  return {
    version,
    model,
    scores,
    record: once(async () => loadClassRecord(db, await model(), await scores())),
    days: once(() => readDays(db, course.id)),
    sessions: once(() => readSessions(db, course.id)),
    levels: once(async () => {
      const rows = await db.orm
        .select({ id: masteries.enrolmentId, outcomeId: masteries.outcomeId, level: masteries.level })
        .from(masteries)
        .innerJoin(enrolments, eq(enrolments.id, masteries.enrolmentId))
        .where(eq(enrolments.courseId, course.id));
      const byStudent = new Map<number, Map<number, MasteryLevel>>();
      for (const { id, outcomeId, level } of rows) {
        let own = byStudent.get(id);
        if (!own) byStudent.set(id, (own = new Map()));
        own.set(outcomeId, level);
      }
      return byStudent;
    }),
    measures: once(async () => {
      const rows = await db.orm
        .select({ id: measures.enrolmentId, m: measures.measures })
        .from(measures)
        .innerJoin(enrolments, eq(enrolments.id, measures.enrolmentId))
        .where(eq(enrolments.courseId, course.id));
      return new Map(rows.map((r) => [r.id, r.m]));
    }),
    standings: once(async () => {
      const rows = await db.orm
        .select({
          id: studentWeeks.enrolmentId,
          week: studentWeeks.week,
          standing: studentWeeks.standing,
        })
        .from(studentWeeks)
        .innerJoin(enrolments, eq(enrolments.id, studentWeeks.enrolmentId))
        .where(eq(enrolments.courseId, course.id))
        .orderBy(asc(studentWeeks.enrolmentId), asc(studentWeeks.week));
      const byStudent = new Map<number, (Percent | null)[]>();
      for (const { id, week, standing } of rows) {
        let list = byStudent.get(id);
        if (!list) byStudent.set(id, (list = []));
        list[week - 1] = standing;
      }
      return byStudent;
    }),
  };
}

async function readDays({ orm }: Database, courseId: number): Promise<Map<number, DayRow[]>> {
  const rows = await orm
    .select({
      id: dayTotals.enrolmentId,
      day: dayTotals.day,
      seconds: dayTotals.seconds,
      inClassSeconds: dayTotals.inClassSeconds,
      views: dayTotals.views,
      contributions: dayTotals.contributions,
      at10: dayTotals.secondsAt10,
      at30: dayTotals.secondsAt30,
      at60: dayTotals.secondsAt60,
    })
    .from(dayTotals)
    .innerJoin(enrolments, eq(enrolments.id, dayTotals.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(dayTotals.enrolmentId), asc(dayTotals.day));
  const byStudent = new Map<number, DayRow[]>();
  for (const { id, ...day } of rows) {
    let list = byStudent.get(id);
    if (!list) byStudent.set(id, (list = []));
    list.push(day);
  }
  return byStudent;
}

async function readSessions({ orm }: Database, courseId: number): Promise<Map<number, Stretch[]>> {
  const ms = (column: typeof sessions.startedAt | typeof sessions.endedAt) =>
    sql<number>`extract(epoch from ${column}) * 1000`.mapWith(Number);
  const rows = await orm
    .select({
      id: sessions.enrolmentId,
      // As numbers at once: tens of thousands of dates are slow to make.
      from: ms(sessions.startedAt),
      until: ms(sessions.endedAt),
      seconds: sessions.seconds,
    })
    .from(sessions)
    .innerJoin(enrolments, eq(enrolments.id, sessions.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(sessions.enrolmentId), asc(sessions.startedAt));
  const byStudent = new Map<number, Stretch[]>();
  for (const { id, ...stretch } of rows) {
    let list = byStudent.get(id);
    if (!list) byStudent.set(id, (list = []));
    list.push(stretch);
  }
  return byStudent;
}
