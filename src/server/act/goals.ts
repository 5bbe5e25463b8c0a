import { and, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { GoalForm } from '@/core/forms/goal';
import { goals, outcomes } from '@/data/schema';
import { idsIn } from '@/data/queries/idsIn';
import { requireCourse, requireEnrolment, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { snapshotOf } from '../snapshot/snapshot';

/** Sets a goal, with where everybody stands today; returns its id. */
export async function addGoal(viewer: Viewer, code: string, form: GoalForm): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const today = localDate(now(), course.zone);
  if (form.by < today) throw invalid('This day is over. Choose a later one.');
  if (form.student != null) await requireEnrolment(course, form.student);
  const ids = [...new Set(form.outcomes)];
  const known = await orm
    .select({ id: outcomes.id })
    .from(outcomes)
    .where(and(eq(outcomes.courseId, course.id), idsIn(outcomes.id, ids)));
  if (known.length !== ids.length) throw invalid('There is no such outcome in this course.');
  const learned = await (await snapshotOf(await ensureEvaluated(course))).masteries();
  const atStart = Object.fromEntries(
    [...learned]
      .filter(([id]) => form.student == null || id === form.student)
      .map(([id, own]) => [
        id,
        own.flatMap((m) => (m.level === 'secure' && ids.includes(m.outcomeId) ? [m.outcomeId] : [])),
      ]),
  );
  const [made] = await orm
    .insert(goals)
    .values({
      courseId: course.id,
      enrolmentId: form.student,
      outcomeIds: ids,
      from: today,
      by: form.by,
      atStart,
      userId: viewer.userId,
    })
    .returning({ id: goals.id });
  return made!.id;
}

/** Removes a goal. */
export async function removeGoal(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const gone = await orm
    .delete(goals)
    .where(and(eq(goals.id, id), eq(goals.courseId, course.id)))
    .returning({ id: goals.id });
  if (gone.length === 0) throw notFound('goal of this course');
}
