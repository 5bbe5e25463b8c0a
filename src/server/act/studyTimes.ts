import { and, eq, isNull, ne } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import type { StudyTimesForm } from '@/core/forms/studyTimes';
import { dueFor } from '@/core/gradebook/status';
import { replan, replanWords, type StudyTimes } from '@/core/plans/replan';
import type { PlanView } from '@/core/plans/plan';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { courses, enrolments, planSteps, plans, studyTimes } from '@/data/schema';
import { requireStudent, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { studyTimesOf } from '../snapshot/studyTimes';
import { tickedPlans } from '../snapshot/tickedPlans';

/** A course that the viewer is a student of, and their place in it. */
async function ownPlace(viewer: Viewer, code: string) {
  const personId = requireStudent(viewer);
  const db = await database();
  const [found] = await db.orm
    .select({ course: courses, enrolmentId: enrolments.id })
    .from(enrolments)
    .innerJoin(courses, eq(courses.id, enrolments.courseId))
    .where(
      and(
        eq(enrolments.personId, personId),
        eq(courses.code, code),
        ne(enrolments.status, 'archived'),
        isNull(courses.forImport),
      ),
    );
  if (!found) throw notFound('course of yours');
  return { db, ...found };
}

/** Gives the open steps of a plan new days, with a line that says what moved and why. */
async function planAnew(
  access: Access,
  snapshot: Snapshot,
  plan: PlanView,
  from: LocalDate,
  times: StudyTimes,
  why: string,
): Promise<string> {
  const { activities, row } = await snapshot.model();
  const own = (await snapshot.scores()).get(plan.enrolmentId);
  const dues = new Map(
    activities.map((a) => {
      const due = dueFor({ due: a.dueAt?.getTime() ?? null }, own?.get(String(a.id)));
      return [a.id, due == null ? null : localDate(due, row.zone)];
    }),
  );
  const found = replan(plan.steps, from, times, (id) => dues.get(id) ?? null);
  if (!found.ok) throw invalid(`The plan cannot be made anew: ${found.reason}.`);
  const said = replanWords(plan.steps, found.value, why);
  const { on, order } = found.value;
  const done = plan.steps.filter((s) => !on.has(s.id));
  for (const [i, { id }] of done.entries())
    await access.orm.update(planSteps).set({ position: i }).where(eq(planSteps.id, id));
  for (const [i, id] of order.entries())
    await access.orm
      .update(planSteps)
      .set({ on: on.get(id)!, position: done.length + i })
      .where(eq(planSteps.id, id));
  await access.orm.update(plans).set({ said }).where(eq(plans.id, plan.id));
  return said;
}

/** The plans of a student that have an open step. */
const openPlans = async (snapshot: Snapshot, enrolmentId: number): Promise<PlanView[]> =>
  (await tickedPlans(snapshot, [enrolmentId])).filter((p) => p.steps.some((s) => s.doneAt == null));

/** Moves what is open in the viewer's plans of a course, since they cannot learn today; returns what moved, in a line. */
export async function notToday(viewer: Viewer, code: string): Promise<string> {
  const { db, course, enrolmentId } = await ownPlace(viewer, code);
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const times = await studyTimesOf(db, snapshot, enrolmentId);
  const open = await openPlans(snapshot, enrolmentId);
  if (open.length === 0) throw notFound('open plan of yours in this course');
  return db.transaction(async (tx) => {
    const said: string[] = [];
    for (const plan of open)
      said.push(await planAnew(tx, snapshot, plan, addDays(today, 1), times, 'you cannot today'));
    return said.join(' ');
  });
}

/** Keeps when a student learns, and makes their open plans fit it. */
export async function saveStudyTimes(viewer: Viewer, code: string, form: StudyTimesForm): Promise<void> {
  const { db, course, enrolmentId } = await ownPlace(viewer, code);
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const open = await openPlans(snapshot, enrolmentId);
  const set = { minutesPerDay: form.minutesPerDay, weekdaysOff: [...form.weekdaysOff].sort() };
  await db.transaction(async (tx) => {
    await tx.orm
      .insert(studyTimes)
      .values({ enrolmentId, ...set })
      .onConflictDoUpdate({ target: studyTimes.enrolmentId, set });
    for (const plan of open)
      await planAnew(tx, snapshot, plan, today, set, `you have ${set.minutesPerDay} min a day`);
  });
}
