import { and, eq, isNull, ne } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import type { StudyTimesForm } from '@/core/forms/studyTimes';
import type { BusyDay, StudyTimes } from '@/core/plans/replan';
import { isOpen, type PlanView } from '@/core/plans/plan';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { courses, enrolments, studyTimes } from '@/data/schema';
import { requireStudent, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { anew, busyAfter, storeAnew, type PlannedAnew } from '../plans/anew';
import { planSettings } from '../plans/setting';
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

/** Plans of a student made anew from a day on, one after the other, so that they share its minutes; refused where no order can be kept. */
async function plansAnew(
  access: Access,
  snapshot: Snapshot,
  {
    enrolmentId,
    from,
    why,
    times,
  }: { enrolmentId: number; from: LocalDate; why: string; times?: StudyTimes },
): Promise<PlannedAnew[]> {
  const list = await openPlans(snapshot, enrolmentId);
  const settings = await planSettings(access, snapshot, [enrolmentId]);
  const busy: BusyDay[] = [];
  return list.map((plan) => {
    const found = anew(plan, { ...settings(enrolmentId, from, times), busy }, why);
    if (!found.ok) throw invalid(`The plan cannot be made anew: ${found.reason}.`);
    busy.push(...busyAfter(plan, found.value));
    return found.value;
  });
}

/** The plans of a student that have an open step. */
const openPlans = async (snapshot: Snapshot, enrolmentId: number): Promise<PlanView[]> =>
  (await tickedPlans(snapshot, [enrolmentId])).filter((p) => p.steps.some(isOpen));

/** Moves what is open in the viewer's plans of a course, since they cannot learn today; returns what moved, in a line. */
export async function notToday(viewer: Viewer, code: string): Promise<string> {
  const { db, course, enrolmentId } = await ownPlace(viewer, code);
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const made = await plansAnew(db, snapshot, {
    enrolmentId,
    from: addDays(today, 1),
    why: 'you cannot today',
  });
  if (made.length === 0) throw notFound('open plan of yours in this course');
  await db.transaction((tx) => storeAnew(tx, made));
  return made.map((m) => m.saying.said).join(' ');
}

/** Keeps when a student learns, and makes their open plans fit it. */
export async function saveStudyTimes(viewer: Viewer, code: string, form: StudyTimesForm): Promise<void> {
  const { db, course, enrolmentId } = await ownPlace(viewer, code);
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const set = { minutesPerDay: form.minutesPerDay, weekdaysOff: [...form.weekdaysOff].sort() };
  const why = `you have ${set.minutesPerDay} min a day`;
  const made = await plansAnew(db, snapshot, { enrolmentId, from: today, why, times: set });
  await db.transaction(async (tx) => {
    await tx.orm
      .insert(studyTimes)
      .values({ enrolmentId, ...set })
      .onConflictDoUpdate({ target: studyTimes.enrolmentId, set });
    await storeAnew(tx, made);
  });
}
