import { eq } from 'drizzle-orm';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { HOUR_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { courses } from '@/data/schema';
import { enqueue } from '../jobs/queue';
import { hasPlans } from '@/data/queries/plans';
import { hasRules } from '@/data/queries/rules';
import type { CourseRow } from '@/data/queries/courseModel';

/** What derives or evaluates a course shares a line: one after the other, in whatever process. */
export const figuresLine = (courseId: number): string => `figures ${courseId}`;

export const evaluationKey = (courseId: number): string => `evaluate ${courseId}`;

/** Has a course evaluated, in the transaction of what asks for it. */
export const queueEvaluation = (access: Access, courseId: number, delayMs = 0): Promise<string> =>
  enqueue(access, {
    kind: 'evaluate',
    payload: { courseId },
    key: evaluationKey(courseId),
    line: figuresLine(courseId),
    delayMs,
  });

/** How long an evaluation of a course holds if nothing comes in: until something may have fallen due. */
export const HOLDS_MS = HOUR_MS;

/** Has a course that was just evaluated evaluated again in an hour, or when the next local day begins there. */
export async function evaluateAgain(
  access: Access,
  { row }: { readonly row: Pick<CourseRow, 'id' | 'zone' | 'archivedAt'> },
  asOf: Instant,
): Promise<void> {
  if (row.archivedAt != null) return;
  const tomorrow = startOfDay(addDays(localDate(asOf, row.zone), 1), row.zone);
  await queueEvaluation(access, row.id, Math.min(HOLDS_MS, tomorrow - asOf));
}

/** Says that flags and measures of a course are no longer right, and has them evaluated. */
export async function outdated(access: Access, courseId: number): Promise<void> {
  await access.orm.update(courses).set({ evaluatedAt: null }).where(eq(courses.id, courseId));
  await queueEvaluation(access, courseId);
}

/** Has the rules of a course look, in the transaction of what they may look at; nothing where none is on. */
export async function queueRules(access: Access, courseId: number, delayMs = 0): Promise<void> {
  if (!(await hasRules(access, courseId))) return;
  await enqueue(access, {
    kind: 'rules',
    payload: { courseId },
    key: `rules ${courseId}`,
    line: `rules ${courseId}`,
    delayMs,
  });
}

/** Has the study plans of a course brought up to date; nothing where there is none to hand out, and none is there. */
export async function queuePlans(access: Access, courseId: number): Promise<void> {
  if (!(await hasPlans(access, courseId))) return;
  await enqueue(access, {
    kind: 'plans',
    payload: { courseId },
    key: `plans ${courseId}`,
    line: `plans ${courseId}`,
  });
}

/** Has what nobody sees of a course removed, in the transaction that leaves it behind. */
export const queueSweep = (access: Access, courseId: number, delayMs = 0): Promise<string> =>
  enqueue(access, { kind: 'sweep', payload: { courseId }, key: `sweep ${courseId}`, delayMs });
