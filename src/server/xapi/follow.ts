import { and, eq } from 'drizzle-orm';
import { MINUTE_MS } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { behind, courses, enrolments } from '@/data/schema';
import { now } from '../base/clock';
import { deriveActivity } from '../derive/activity';
import { refreshMasteries } from '../derive/masteries';
import { loadCourseModel } from '@/data/queries/courseModel';
import { figuresLine, queueEvaluation, queueRules } from '../derive/outdated';
import { enqueue, hasRunner, untilEnded, wakeRunner } from '../jobs/queue';
import { underLock } from '@/data/write/underLock';

/** Statements that come in within this time are derived together. */
const GATHER_MS = 300;
/** Flags are looked at again at most this often while statements stream in. */
const EVALUATE_EVERY_MS = 2 * MINUTE_MS;

/** Has the derived rows of a course brought up to date soon, in the transaction of what came in. */
export const followSoon = (access: Access, courseId: number, delayMs = GATHER_MS): Promise<string> =>
  enqueue(access, {
    kind: 'follow',
    payload: { courseId },
    key: `follow ${courseId}`,
    line: figuresLine(courseId),
    delayMs,
  });

/** Waits for a following that was asked for; where no runner works the queue off, it is done here. */
export async function untilFollowed(db: Database, courseId: number, job: string): Promise<void> {
  if (!hasRunner()) return follow(db, courseId);
  wakeRunner();
  await untilEnded(db, job);
}

/**
 * Brings the derived rows of a course up to date. Its flags are evaluated two minutes after they last were, or at once
 * if that is longer ago: however short a burst is, one evaluation follows it.
 */
export async function follow(db: Database, courseId: number): Promise<void> {
  await underLock(db, courseId, async (tx) => {
    await deriveBehind(tx, courseId);
    const [row] = await tx.orm
      .select({ at: courses.evaluatedAt })
      .from(courses)
      .where(eq(courses.id, courseId));
    const age = row?.at == null ? Infinity : Math.abs(now() - row.at.getTime());
    await queueEvaluation(tx, courseId, Math.max(0, EVALUATE_EVERY_MS - age));
    await queueRules(tx, courseId);
  });
}

/** Derives what is behind in a course, now. Returns how many students were. */
export async function catchUp(db: Database, courseId: number): Promise<number> {
  return underLock(db, courseId, async (tx) => {
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
  const course = await loadCourseModel(tx, courseId);
  await deriveActivity(tx, course, affected, { removed: rows.some((r) => r.removed) });
  await refreshMasteries(tx, course, [...affected.keys()], now());
  return rows.length;
}
