import { eq } from 'drizzle-orm';
import type { ClassRecord } from '@/core/course/record';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import type { Stretch } from '@/core/activity/heat';
import type { Database } from '@/data/database';
import { courses } from '@/data/schema';
import { database } from '../base/database';
import { loadClassRecord } from '@/data/queries/classRecord';
import { loadCourseModel, type CourseModel, type CourseRow } from '@/data/queries/courseModel';
import { loadDays } from '@/data/queries/days';
import { type DayRow } from '@/core/activity/dayFigures';
import { changedSince, importsMark } from '@/data/queries/revision';
import { loadScores, type FullScore } from '@/data/queries/scores';
import {
  readClassWeeks,
  readFlags,
  readMasteries,
  readMeasures,
  readOpened,
  readSessions,
  readWeeks,
} from '@/data/queries/studentParts';
import { loadWorkDays } from '@/data/queries/workDays';
import { type WorkDays } from '@/core/activity/workDays';

/** Something that is read when it is first asked for. */
interface Part<T> {
  (): Promise<T>;
  /** What was read, or is being read; null if nobody has asked. */
  readonly known: () => Promise<T> | null;
}

/** What was read, or is being read, of each student, and the revision of the course that it was read at. */
interface Base<V> {
  readonly values: Promise<ReadonlyMap<number, V>>;
  readonly rev: number;
}

/** A part that follows what comes in, student by student. */
interface FollowedPart<V> {
  (): Promise<ReadonlyMap<number, V>>;
  /**
   * What the same part of the next snapshot goes on from: what was read here or, if nobody asked here, what was read
   * before. While statements stream in most snapshots are asked for one part only; the others must not start anew.
   */
  readonly base: () => Base<V> | null;
}

/** What is known of a course at one version of it, each part read when it is first asked for. Never to be changed. */
export interface Snapshot {
  readonly model: Part<CourseModel>;
  readonly scores: FollowedPart<ReadonlyMap<string, FullScore>>;
  readonly days: FollowedPart<readonly DayRow[]>;
  readonly workDays: FollowedPart<WorkDays>;
  /** Activities that each student ever opened. */
  readonly opened: FollowedPart<ReadonlySet<number>>;
  /** Sessions of each student, ascending. */
  readonly sessions: FollowedPart<readonly Stretch[]>;
  /** Mastery of each outcome, by student. */
  readonly masteries: FollowedPart<MasteriesOf>;
  readonly record: Part<ClassRecord>;
  readonly measures: Part<ReadonlyMap<number, StudentMeasures>>;
  readonly weeks: Part<Awaited<ReturnType<typeof readWeeks>>>;
  readonly classWeeks: Part<Awaited<ReturnType<typeof readClassWeeks>>>;
  readonly flags: Part<Awaited<ReturnType<typeof readFlags>>>;
}

type MasteriesOf = NonNullable<ReturnType<Awaited<ReturnType<typeof readMasteries>>['get']>>;

/** Courses kept at a time: an instructor looks at few, and a large one takes some ten megabytes. */
const MOST_KEPT = 12;
/** On the global object: pages, route handlers and actions load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternSnapshots?: WeakMap<Database, Map<number, Kept>> };

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
  const kept = (holder.lanternSnapshots ??= new WeakMap());
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
      imports: importsMark(course.id),
    })
    .from(courses)
    .where(eq(courses.id, course.id));
  const { rev, dataUntil, evaluatedAt, evaluatedOn, evaluations, ...setup } = row!.course;
  return {
    setup: JSON.stringify([setup, row!.imports]),
    rev,
    evaluated: JSON.stringify([evaluatedAt, evaluatedOn, evaluations, dataUntil == null]),
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
  const changedAfter = new Map<number, Promise<number[]>>();
  /** Students of whom something came in after a revision. */
  const changed = (rev: number): Promise<number[]> => {
    let found = changedAfter.get(rev);
    if (!found) changedAfter.set(rev, (found = changedSince(db, course.id, rev)));
    return found;
  };
  /** A part that what came in changes for some students: theirs are read anew, the others stay. */
  const byStudent = <V>(
    before: FollowedPart<V> | undefined,
    read: (only?: readonly number[]) => Promise<Map<number, V>>,
  ): FollowedPart<V> => {
    // Only what was read is taken over: no snapshot holds on to the one before it.
    let inherited = before?.base() ?? null;
    const part = once(async () => {
      const base = inherited;
      inherited = null;
      const known = await base?.values.catch(() => null);
      if (!base || !known) return read();
      const ids = await changed(base.rev);
      if (ids.length === 0) return known;
      const after = new Map(known);
      for (const id of ids) after.delete(id);
      for (const [id, value] of await read(ids)) after.set(id, value);
      return after;
    });
    return Object.assign(() => part(), {
      base: () => {
        const values = part.known();
        return values ? { values, rev: marks.rev } : inherited;
      },
    });
  };
  /** A part that only an evaluation changes. */
  const stays = known?.marks.evaluated === marks.evaluated;
  const evaluated = <T>(part: Part<T> | undefined, read: () => Promise<T>): Part<T> =>
    stays && part ? part : once(read);
  const old = known?.snapshot;

  const model = old?.model ?? once(() => loadCourseModel(db, course.id));
  const scores = byStudent(old?.scores, (only) => loadScores(db, course.id, only));
  const days = byStudent(old?.days, (only) => loadDays(db, course.id, only));
  const snapshot: Snapshot = {
    model,
    scores,
    record: once(async () => loadClassRecord(db, await model(), await scores(), await days())),
    days,
    workDays: byStudent(old?.workDays, (only) => loadWorkDays(db, course.id, only)),
    opened: byStudent(old?.opened, (only) => readOpened(db, course.id, only)),
    sessions: byStudent(old?.sessions, (only) => readSessions(db, course.id, only)),
    masteries: byStudent(stays ? old?.masteries : undefined, (only) => readMasteries(db, course.id, only)),
    measures: evaluated(old?.measures, () => readMeasures(db, course.id)),
    weeks: evaluated(old?.weeks, () => readWeeks(db, course.id)),
    classWeeks: evaluated(old?.classWeeks, () => readClassWeeks(db, course.id)),
    flags: evaluated(old?.flags, () => readFlags(db, course.id)),
  };
  return snapshot;
}
