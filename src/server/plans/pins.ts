import { and, eq } from 'drizzle-orm';
import { isBreak } from '@/core/calendar/term';
import { localDate, weekday } from '@/core/calendar/zone';
import { weekdayDay } from '@/core/format';
import { busyOf } from '@/core/plans/replan';
import type { LocalDate } from '@/core/units';
import { enrolments, plans, planSteps } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { snapshotOf } from '../snapshot/snapshot';
import { tickedPlans } from '../snapshot/tickedPlans';
import { anew, storeAnew } from './anew';
import { planSettings } from './setting';

/**
 * Keeps a step of a student's plan on a day whatever else moves, or lets it move again (null); the rest of the plan is made
 * to fit. A day that is over, or on which the student does not learn, is refused.
 */
export async function keepStepDay(
  viewer: Viewer,
  code: string,
  stepId: number,
  on: LocalDate | null,
): Promise<string> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const [row] = await db.orm
    .select({ planId: planSteps.planId, student: plans.enrolmentId, title: planSteps.title })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .innerJoin(enrolments, eq(enrolments.id, plans.enrolmentId))
    .where(and(eq(planSteps.id, stepId), eq(enrolments.courseId, course.id)));
  if (!row) throw notFound('step in the plans of this course');
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const setting = (await planSettings(db, snapshot, [row.student]))(row.student, today);
  if (on != null && on < today) throw invalid(`${weekdayDay(on)} is over; choose a day from today on.`);
  if (on != null && (setting.times.weekdaysOff.includes(weekday(on)) || isBreak(setting.term, on)))
    throw invalid(`${weekdayDay(on)} is a day off for this student; choose another.`);
  const own = await tickedPlans(snapshot, [row.student]);
  const plan = own.find((p) => p.id === row.planId);
  if (!plan) throw notFound('step in the plans of this course');
  const steps = plan.steps.map((s) => (s.id === stepId ? { ...s, pinned: on != null, on: on ?? s.on } : s));
  const why = on == null ? `“${row.title}” may move again` : `“${row.title}” stays on ${weekdayDay(on)}`;
  const made = anew({ ...plan, steps }, { ...setting, busy: busyOf(own.filter((p) => p !== plan)) }, why);
  if (!made.ok) throw invalid(`The plan cannot be made so: ${made.reason}.`);
  await db.transaction(async (tx) => {
    await tx.orm
      .update(planSteps)
      .set({ pinned: on != null })
      .where(eq(planSteps.id, stepId));
    await storeAnew(tx, [made.value]);
  });
  return made.value.saying.said;
}
