import { and, asc, eq, gt, sql } from 'drizzle-orm';
import type { ClassRecord } from '@/core/risk/classRecord';
import type { StudentMeasures } from '@/core/risk/measures';
import type { Stretch } from '@/core/activity/heat';
import type { MasteryLevel } from '@/core/outcomes/mastery';
import type { Percent } from '@/core/units';
import type { Database } from '@/data/database';
import {
  activityTotals,
  courses,
  enrolments,
  masteries,
  measures,
  sessions,
  studentWeeks,
} from '@/data/schema';
import { database } from '../database';
import { loadClassRecord } from './classRecord';
import { loadCourseModel, type CourseModel, type CourseRow } from './courseModel';
import { loadDays, ofStudents, type DayRow } from './days';
import { loadScores, type FullScore } from './scores';
import { loadWorkDays, type WorkDays } from './workDays';

/** Something that is read when it is first asked for. */
interface Part<T> {
  (): Promise<T>;
  /** What was read, or is being read; null if nobody has asked. */
  readonly known: () => Promise<T> | null;
}

/** What is known of a course at one version of it, each part read when it is first asked for. Never to be changed. */
export interface Snapshot {
  readonly model: Part<CourseModel>;
  readonly scores: Part<ReadonlyMap<number, ReadonlyMap<string, FullScore>>>;
  readonly days: Part<ReadonlyMap<number, readonly DayRow[]>>;
  readonly workDays: Part<ReadonlyMap<number, WorkDays>>;
  /** Activities that each student ever opened. */
  readonly opened: Part<ReadonlyMap<number, ReadonlySet<number>>>;
  /** Sessions of each student, ascending. */
  readonly sessions: Part<ReadonlyMap<number, readonly Stretch[]>>;
  /** Level of each outcome, by student. */
  readonly levels: Part<ReadonlyMap<number, ReadonlyMap<number, MasteryLevel>>>;
  readonly record: Part<ClassRecord>;
  readonly measures: Part<ReadonlyMap<number, StudentMeasures>>;
  /** Standings of the term weeks from the first, by student. */
  readonly standings: Part<ReadonlyMap<number, readonly (Percent | null)[]>>;
}

/** Courses kept at a time: an instructor looks at few, and a large one takes some ten megabytes. */
const MOST_KEPT = 12;
const kept = new WeakMap<Database, Map<number, Kept>>();

/** Each part of a snapshot with the mark that it was read at. */
interface Kept {
  readonly marks: Marks;
  readonly snapshot: Snapshot;
}

/** What says whether a part still holds: how the course is set up, what came in, and the last evaluation. */
interface Marks {
  readonly setup: string;
  readonly rev: number;
  readonly evaluated: string;
}

/**
 * The snapshot of a course as it stands in the database. Views ask for the same tables again and again while nothing
 * changes; one cheap row says what may be used again. It is read from the database, so what another process wrote is
 * seen too. What came in for a few students is read for these alone.
 */
export async function snapshotOf(course: CourseRow): Promise<Snapshot> {
  const db = await database();
  let ofDatabase = kept.get(db);
  if (!ofDatabase) kept.set(db, (ofDatabase = new Map()));
  const marks = await marksOf(db, course);
  const known = ofDatabase.get(course.id);
  if (known && JSON.stringify(known.marks) === JSON.stringify(marks)) return known.snapshot;
  const snapshot = snapshotAt(db, course, marks, known?.marks.setup === marks.setup ? known : null);
  ofDatabase.delete(course.id);
  ofDatabase.set(course.id, { marks, snapshot });
  if (ofDatabase.size > MOST_KEPT) ofDatabase.delete(ofDatabase.keys().next().value!);
  return snapshot;
}

async function marksOf({ orm }: Database, course: CourseRow): Promise<Marks> {
  const [row] = await orm
    .select({
      course: courses,
      imports: sql<string>`(select coalesce(max(id), 0) || '-' || count(undone_at) from imports where course_id = ${course.id})`,
    })
    .from(courses)
    .where(eq(courses.id, course.id));
  const { rev, dataUntil, evaluatedAt, evaluatedOn, ...setup } = row!.course;
  return {
    setup: JSON.stringify([setup, row!.imports]),
    rev,
    evaluated: JSON.stringify([evaluatedAt, evaluatedOn, dataUntil == null]),
  };
}

/** Reads once, and again if reading failed. */
function once<T>(read: () => Promise<T>): Part<T> {
  let reading: Promise<T> | null = null;
  const part = () =>
    (reading ??= read().catch((error: unknown) => {
      reading = null;
      throw error;
    }));
  return Object.assign(part, { known: () => reading });
}

function snapshotAt(db: Database, course: CourseRow, marks: Marks, known: Kept | null): Snapshot {
  // What was read before is taken over as such: no snapshot holds on to the one before it.
  const rev = known?.marks.rev ?? 0;
  const changed = once(async () => {
    const rows = await db.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(and(eq(enrolments.courseId, course.id), gt(enrolments.rev, rev)));
    return rows.map((r) => r.id);
  });
  /** A part that what came in changes for some students: theirs are read anew, the others stay. */
  const byStudent = <V>(
    known: Promise<ReadonlyMap<number, V>> | null | undefined,
    read: (only?: readonly number[]) => Promise<Map<number, V>>,
  ): Part<ReadonlyMap<number, V>> => {
    let source = known;
    return once(async () => {
      const before = await source?.catch(() => null);
      source = null;
      if (!before) return read();
      const ids = await changed();
      if (ids.length === 0) return before;
      const after = new Map(before);
      for (const id of ids) after.delete(id);
      for (const [id, value] of await read(ids)) after.set(id, value);
      return after;
    });
  };
  /** A part that only an evaluation changes. */
  const stays = known?.marks.evaluated === marks.evaluated;
  const evaluated = <T>(part: Part<T> | undefined, read: () => Promise<T>): Part<T> =>
    stays && part ? part : once(read);
  const old = known?.snapshot;

  const model = old?.model ?? once(() => loadCourseModel(db, course.id));
  const scores = byStudent(old?.scores.known(), (only) => loadScores(db, course.id, only));
  const days = byStudent(old?.days.known(), (only) => loadDays(db, course.id, only));
  const snapshot: Snapshot = {
    model,
    scores,
    record: once(async () => loadClassRecord(db, await model(), await scores(), await days())),
    days,
    workDays: byStudent(old?.workDays.known(), (only) => loadWorkDays(db, course.id, only)),
    opened: byStudent(old?.opened.known(), (only) => readOpened(db, course.id, only)),
    sessions: byStudent(old?.sessions.known(), (only) => readSessions(db, course.id, only)),
    levels: evaluated(old?.levels, async () => {
      const rows = await db.orm
        .select({ id: masteries.enrolmentId, outcomeId: masteries.outcomeId, level: masteries.level })
        .from(masteries)
        .innerJoin(enrolments, eq(enrolments.id, masteries.enrolmentId))
        .where(eq(enrolments.courseId, course.id));
      const found = new Map<number, Map<number, MasteryLevel>>();
      for (const { id, outcomeId, level } of rows) {
        let own = found.get(id);
        if (!own) found.set(id, (own = new Map()));
        own.set(outcomeId, level);
      }
      return found;
    }),
    measures: evaluated(old?.measures, async () => {
      const rows = await db.orm
        .select({ id: measures.enrolmentId, m: measures.measures })
        .from(measures)
        .innerJoin(enrolments, eq(enrolments.id, measures.enrolmentId))
        .where(eq(enrolments.courseId, course.id));
      return new Map(rows.map((r) => [r.id, r.m]));
    }),
    standings: evaluated(old?.standings, async () => {
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
      const found = new Map<number, (Percent | null)[]>();
      for (const { id, week, standing } of rows) {
        let list = found.get(id);
        if (!list) found.set(id, (list = []));
        list[week - 1] = standing;
      }
      return found;
    }),
  };
  return snapshot;
}

async function readOpened(
  { orm }: Database,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, ReadonlySet<number>>> {
  const rows = await orm
    .select({
      id: activityTotals.enrolmentId,
      ids: sql<string>`string_agg(${activityTotals.activityId}::text, ',')`,
    })
    .from(activityTotals)
    .innerJoin(enrolments, eq(enrolments.id, activityTotals.enrolmentId))
    .where(ofStudents(courseId, only))
    .groupBy(activityTotals.enrolmentId);
  return new Map(rows.map((r) => [r.id, new Set(r.ids.split(',').map(Number))]));
}

async function readSessions(
  { orm }: Database,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, Stretch[]>> {
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
    .where(ofStudents(courseId, only))
    .orderBy(asc(sessions.enrolmentId), asc(sessions.startedAt));
  const byStudent = new Map<number, Stretch[]>();
  for (const { id, ...stretch } of rows) {
    let list = byStudent.get(id);
    if (!list) byStudent.set(id, (list = []));
    list.push(stretch);
  }
  return byStudent;
}
