import { and, eq, isNull, ne } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import type { StudyTimesForm } from '@/core/forms/studyTimes';
import type { StudyTimes } from '@/core/plans/replan';
import { isOpen, type PlanView } from '@/core/plans/plan';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { courses, enrolments, studyTimes } from '@/data/schema';
import { requireStudent, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { anew, storeAnew } from '../plans/anew';
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

/** Makes plans of a student anew from a day on, and says what moved and why; refused where no order can be kept. */
async function planAnew(
  access: Access,
  snapshot: Snapshot,
  list: readonly PlanView[],
  from: LocalDate,
  why: string,
  times?: StudyTimes,
): Promise<string> {
  const settings = await planSettings(access, snapshot, [...new Set(list.map((p) => p.enrolmentId))]);
  const made = list.map((plan) => {
    const found = anew(plan, settings(plan.enrolmentId, from, times), why);
    if (!found.ok) throw invalid(`The plan cannot be made anew: ${found.reason}.`);
    return found.value;
  });
  await storeAnew(access, made);
  return made.map((m) => m.saying.said).join(' ');
}

/** The plans of a student that have an open step. */
const openPlans = async (snapshot: Snapshot, enrolmentId: number): Promise<PlanView[]> =>
  (await tickedPlans(snapshot, [enrolmentId])).filter((p) => p.steps.some(isOpen));

/** Moves what is open in the viewer's plans of a course, since they cannot learn today; returns what moved, in a line. */
export async function notToday(viewer: Viewer, code: string): Promise<string> {
  const { db, course, enrolmentId } = await ownPlace(viewer, code);
  const snapshot = await snapshotOf(course);
  const today = localDate(now(), course.zone);
  const open = await openPlans(snapshot, enrolmentId);
  if (open.length === 0) throw notFound('open plan of yours in this course');
  return db.transaction((tx) => planAnew(tx, snapshot, open, addDays(today, 1), 'you cannot today'));
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
    await planAnew(tx, snapshot, open, today, `you have ${set.minutesPerDay} min a day`, set);
  });
}
