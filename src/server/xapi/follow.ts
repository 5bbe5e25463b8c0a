import { and, eq } from 'drizzle-orm';
import { MINUTE_MS } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { behind, courses, enrolments } from '@/data/schema';
import { database } from '../database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel, lockCourse } from '../derive/courseModel';
import { evaluateNow } from '../evaluation';
import { reportFailure } from '../failure';

/** Statements that come in within this time are derived together. */
const GATHER_MS = 300;
/** Flags are looked at again at most this often while statements stream in. */
const EVALUATE_EVERY_MS = 2 * MINUTE_MS;

interface Following {
  timer: NodeJS.Timeout | null;
  running: Promise<void> | null;
  again: boolean;
  evaluated: number;
}
/** On the global object: route handlers and the start load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternFollowing?: Map<number, Following> };
const following = (courseId: number): Following => {
  holder.lanternFollowing ??= new Map();
  let state = holder.lanternFollowing.get(courseId);
  if (!state)
    holder.lanternFollowing.set(
      courseId,
      (state = { timer: null, running: null, again: false, evaluated: performance.now() }),
    );
  return state;
};

/** Brings the derived rows of a course up to date soon, off the request that asks for it. */
export function followSoon(courseId: number): void {
  const state = following(courseId);
  if (state.running) {
    state.again = true;
    return;
  }
  state.timer ??= setTimeout(() => {
    state.timer = null;
    state.running = run(courseId, state)
      .catch((error: unknown) => void reportFailure('bringing derived rows up to date', error))
      .finally(() => {
        state.running = null;
        if (state.again) {
          state.again = false;
          followSoon(courseId);
        }
      });
  }, GATHER_MS);
}

/** Ends all following, once what runs has ended: before the database is closed. */
export async function stopFollowing(): Promise<void> {
  const all = [...(holder.lanternFollowing?.values() ?? [])];
  holder.lanternFollowing = undefined;
  for (const state of all) {
    if (state.timer) clearTimeout(state.timer);
    state.again = false;
  }
  await Promise.all(all.map((state) => state.running));
}

async function run(courseId: number, state: Following): Promise<void> {
  const db = await database();
  await catchUp(db, courseId);
  if (performance.now() - state.evaluated < EVALUATE_EVERY_MS) return;
  await evaluateNow(courseId);
  state.evaluated = performance.now();
}

/** Derives what is behind in a course, now. Returns how many students were. */
export async function catchUp(db: Database, courseId: number): Promise<number> {
  return db.transaction(async (tx) => {
    await lockCourse(tx, courseId);
    return deriveBehind(tx, courseId);
  });
}

/** The same, inside a transaction that holds the course. */
export async function deriveBehind(tx: Access, courseId: number): Promise<number> {
  const rows = await tx.orm
    .select({ id: behind.enrolmentId, since: behind.since, removed: behind.removed })
    .from(behind)
    .innerJoin(enrolments, and(eq(enrolments.id, behind.enrolmentId), eq(enrolments.courseId, courseId)));
  if (rows.length === 0) return 0;
  const affected = new Map(rows.map((r) => [r.id, r.since.getTime()]));
  await deriveActivity(tx, await loadCourseModel(tx, courseId), affected, {
    removed: rows.some((r) => r.removed),
  });
  return rows.length;
}

/** Catches up with what a stop left behind. Called once at the start. */
export async function catchUpAll(db: Database): Promise<void> {
  const rows = await db.orm
    .selectDistinct({ id: courses.id })
    .from(behind)
    .innerJoin(enrolments, eq(enrolments.id, behind.enrolmentId))
    .innerJoin(courses, eq(courses.id, enrolments.courseId));
  for (const { id } of rows) await catchUp(db, id);
}
