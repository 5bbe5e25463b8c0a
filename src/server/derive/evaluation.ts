import { setTimeout as pause } from 'node:timers/promises';
import { eq, sql } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { courses } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { loadClassRecord } from '@/data/queries/classRecord';
import { loadCourseModel, type CourseRow } from '@/data/queries/courseModel';
import { revise } from '@/data/queries/revision';
import { keepAttemptPolicy } from '@/data/write/attemptPolicy';
import { evaluateCourse, findEvaluation, storeEvaluation } from './evaluate';
import { evaluationKey, HOLDS_MS } from './outdated';
import { unwatched, type Progress } from '../jobs/progress';
import { hasRunner, wakeRunner } from '../jobs/queue';
import { underLock } from '@/data/write/underLock';

/** How long a page waits for an evaluation; then it shows what the last one found. */
const PATIENCE_MS = 3000;
const LOOK_EVERY_MS = 30;

/**
 * Whether the last evaluation still holds: no local day has begun since, and no hour gone by. Where the past weeks are
 * gone through anew, which takes long, what stands is shown until then.
 */
function isFresh({ evaluatedAt, evaluatedOn, zone }: CourseRow): boolean {
  const at = now();
  return (
    evaluatedAt != null &&
    (evaluatedOn == null || evaluatedOn === localDate(at, zone)) &&
    Math.abs(at - evaluatedAt.getTime()) < HOLDS_MS
  );
}

/**
 * Waits for the evaluation of a course that is asked for in the queue, if the last one no longer holds, and returns the
 * course as it then stands. A page that reads writes nothing; where no runner works the queue off (the command line),
 * it is evaluated here.
 */
export async function ensureEvaluated(course: CourseRow): Promise<CourseRow> {
  if (isFresh(course)) return course;
  const db = await database();
  if (!hasRunner()) {
    await evaluateNow(db, course.id);
    return (await rowOf(db, course.id))?.row ?? course;
  }
  wakeRunner();
  const until = performance.now() + PATIENCE_MS;
  for (;;) {
    const found = await rowOf(db, course.id);
    if (!found) return course;
    if (isFresh(found.row) || !found.asked || performance.now() > until) return found.row;
    await pause(LOOK_EVERY_MS);
  }
}

/** A course, and whether its evaluation is under way or about to be. */
async function rowOf({ orm }: Database, courseId: number) {
  const [found] = await orm
    .select({
      row: courses,
      asked: sql<boolean>`exists (select 1 from jobs where key = ${evaluationKey(courseId)}
        and (state = 'running' or (state = 'queued' and run_at <= clock_timestamp())))`,
    })
    .from(courses)
    .where(eq(courses.id, courseId));
  return found;
}

/** On the global object: route handlers, actions and the start load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternEvaluating?: Map<number, Promise<void>> };

/** Evaluates a course as of now. Who asks meanwhile in this process waits for the same. */
export function evaluateNow(
  db: Database,
  courseId: number,
  { at = now(), progress = unwatched }: { readonly at?: Instant; readonly progress?: Progress } = {},
): Promise<void> {
  const running = (holder.lanternEvaluating ??= new Map());
  let work = running.get(courseId);
  if (!work) {
    work = evaluate(db, courseId, at, progress).finally(() => running.delete(courseId));
    running.set(courseId, work);
  }
  return work;
}

/** How often an evaluation begins anew because something came in; then others wait for it. */
const ANEW = 3;

/** Reads and computes outside of any transaction, and stores what it found if nothing has come in meanwhile. */
async function evaluate(db: Database, courseId: number, at: Instant, progress: Progress): Promise<void> {
  await followPolicy(db, courseId);
  for (let i = 0; i < ANEW; i++) {
    const course = await loadCourseModel(db, courseId);
    const record = await loadClassRecord(db, course);
    const found = await findEvaluation(db, course, record, at, progress);
    const stored = await underLock(db, courseId, async (tx) => {
      const [row] = await tx.orm.select().from(courses).where(eq(courses.id, courseId));
      if (!row || !sameMarks(row, course.row)) return false;
      await storeEvaluation(tx, course, found);
      return true;
    });
    if (stored) return;
  }
  await underLock(db, courseId, async (tx) => {
    await evaluateCourse(tx, await loadCourseModel(tx, courseId), at);
  });
}

/** Lets grades follow which attempt counts, where the course says so: attempts may have come in. */
async function followPolicy(db: Database, courseId: number): Promise<void> {
  const [row] = await db.orm
    .select({ policy: courses.attemptPolicy })
    .from(courses)
    .where(eq(courses.id, courseId));
  if (!row?.policy) return;
  const { policy } = row;
  await underLock(db, courseId, async (tx) => {
    const changed = await keepAttemptPolicy(tx, courseId, policy, nowDate());
    if (changed.length > 0) await revise(tx, courseId, changed);
  });
}

/** Whether nothing has come in, and nothing was evaluated, between two readings of a course. */
const sameMarks = (a: CourseRow, b: CourseRow): boolean =>
  a.rev === b.rev && a.setupRev === b.setupRev && a.evaluatedOn === b.evaluatedOn;
