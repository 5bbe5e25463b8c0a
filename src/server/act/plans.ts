import { and, eq } from 'drizzle-orm';
import { isResource } from '@/core/course/kinds';
import { addDays, localDate } from '@/core/calendar/zone';
import { isClosed } from '@/core/gradebook/status';
import { PRAISE, type Picked } from '@/core/acts/pick';
import { secondsByActivity } from '@/core/activity/workDays';
import { focusOf } from '@/core/messages/starters';
import { IN_FULL_SHARE } from '@/core/plans/ticks';
import { proposePlan, USUAL_MINUTES, type PlanActivity, type PlanStep } from '@/core/plans/propose';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { courses, enrolments, persons, plans, planSteps } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { type CourseModel } from '@/data/queries/courseModel';
import { invalid, notFound } from '../base/errors';
import { fullName } from '../snapshot/roster';
import { requireStudent, requireCourse, type Viewer } from '../access/viewer';
import { isOpen, MOST_STEPS, type StepView } from '@/core/plans/plan';
import type { StepForm } from '@/core/forms/message';
import type { CoursePlanRow } from '@/core/views/plan';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { pacesOf } from '../snapshot/studyTimes';
import { tickedPlans } from '../snapshot/tickedPlans';
import { missedOrEarly } from '@/core/plans/change';
import { busyOf } from '@/core/plans/replan';
import { anew, storeAnew } from '../plans/anew';
import { planSettings } from '../plans/setting';

/** Activities a step can be made from, in course order. */
export function planActivities(course: CourseModel): PlanActivity[] {
  return course.activities.map((a) => ({
    id: String(a.id),
    title: a.title,
    minutes: a.minutes ?? USUAL_MINUTES,
    outcomes: course.covers.get(String(a.id)) ?? [],
  }));
}

/** A proposed plan for each of the enrolments, from why they were selected: see `proposePlan`. None where it is praise. */
export async function proposedPlans(
  snapshot: Snapshot,
  chosen: ReadonlyMap<number, Picked>,
): Promise<Map<number, PlanStep[]>> {
  const model = await snapshot.model();
  const all = planActivities(model);
  const byId = new Map(all.map((a) => [a.id, a]));
  const kindOf = new Map(model.activities.map((a) => [String(a.id), a.kind]));
  const resources = all.filter((a) => isResource(kindOf.get(a.id)!));
  const measured = await snapshot.measures();
  const learned = await snapshot.masteries();
  const paceOf = await pacesOf(await database(), snapshot, [...chosen.keys()]);
  const workDays = await snapshot.workDays();
  const at = now();
  const today = localDate(at, model.term.zone);
  const closesOf = new Map(model.activities.map((a) => [String(a.id), a.closesAt?.getTime() ?? null]));
  const own = await snapshot.scores();
  const canStill = (enrolmentId: number, work: string) =>
    !isClosed({ closes: closesOf.get(work) ?? null }, own.get(enrolmentId)?.get(work), at);
  return new Map(
    [...chosen].flatMap(([id, { about, activityId }]) => {
      const found = measured.get(id);
      if (!found) return [];
      if (PRAISE.includes(about)) return [[id, []]];
      const seconds = secondsByActivity(workDays.get(id));
      const inFull = (a: PlanActivity) => (seconds.get(Number(a.id)) ?? 0) >= IN_FULL_SHARE * a.minutes * 60;
      const kind = focusOf(about);
      const activity = activityId == null ? undefined : byId.get(String(activityId));
      const plan = proposePlan({
        missing: found.completion.missing
          .filter((work) => canStill(id, work))
          .flatMap((work) => byId.get(work) ?? []),
        resources: resources.filter((r) => !inFull(r)),
        outcomes: (learned.get(id) ?? []).map((m) => ({ ...m, id: String(m.outcomeId) })),
        focus: kind && activity ? { kind, activity } : null,
        from: addDays(today, 1),
        term: model.term,
        pace: paceOf(id, found.rhythm.daysSince),
      });
      return [[id, plan]];
    }),
  );
}

/** The first open step of each student's latest plan that has one. */
export async function openSteps(snapshot: Snapshot, ids: readonly number[]): Promise<Map<number, StepView>> {
  const found = new Map<number, StepView>();
  for (const plan of await tickedPlans(snapshot, ids)) {
    const step = plan.steps.find(isOpen);
    if (step && !found.has(plan.enrolmentId)) found.set(plan.enrolmentId, step);
  }
  return found;
}

/** Refuses a plan that cannot be: no step, too many, a date in the past, an activity of another course. */
export function checkPlan(
  course: CourseModel,
  student: string,
  steps: readonly StepForm[],
  today: LocalDate,
): void {
  if (steps.length === 0) throw invalid(`The plan for ${student} has no step.`);
  if (steps.length > MOST_STEPS) throw invalid(`The plan for ${student} has more than ${MOST_STEPS} steps.`);
  const known = new Set(course.activities.map((a) => a.id));
  for (const step of steps) {
    if (step.on <= today)
      throw invalid(
        `In the plan for ${student}, “${step.title}” is for ${step.on}: nothing is due on the day it is sent, or before.`,
      );
    if (step.activityId != null && !known.has(step.activityId)) {
      throw invalid(`In the plan for ${student}, “${step.title}” is not an activity of this course.`);
    }
  }
}

/** Stores checked plans, inside the transaction of the message they go with. */
export async function storePlans(
  access: Access,
  viewer: Viewer,
  list: readonly {
    readonly enrolmentId: number;
    readonly recipientId: number;
    readonly steps: readonly StepForm[];
  }[],
): Promise<void> {
  const made = await insertMany(
    access,
    plans,
    list.map(({ enrolmentId, recipientId }) => ({
      enrolmentId,
      userId: viewer.userId,
      recipientId,
      createdAt: nowDate(),
    })),
    { returning: [plans.id, plans.recipientId] },
  );
  const planOf = new Map(made.map((p) => [Number(p.recipient_id), Number(p.id)]));
  await insertMany(
    access,
    planSteps,
    list.flatMap(({ recipientId, steps }) =>
      steps.map(({ activityId, title, minutes, on, why }, position) => ({
        planId: planOf.get(recipientId)!,
        position,
        activityId,
        title,
        minutes,
        on,
        why,
      })),
    ),
  );
}

/** Ticks a step of the viewer's own plan, or takes the tick back. What is done before its day lets the rest come earlier. */
export async function tickStep(viewer: Viewer, stepId: number, done: boolean): Promise<void> {
  const personId = requireStudent(viewer);
  const db = await database();
  const [own] = await db.orm
    .select({ planId: plans.id, student: enrolments.id, course: courses })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .innerJoin(enrolments, eq(enrolments.id, plans.enrolmentId))
    .innerJoin(courses, eq(courses.id, enrolments.courseId))
    .where(and(eq(planSteps.id, stepId), eq(enrolments.personId, personId)));
  if (!own) throw notFound('step in your plans');
  await db.orm
    .update(planSteps)
    .set({ doneAt: done ? nowDate() : null })
    .where(eq(planSteps.id, stepId));
  const snapshot = await snapshotOf(own.course);
  const all = await tickedPlans(snapshot, [own.student]);
  const plan = all.find((p) => p.id === own.planId);
  const today = localDate(now(), own.course.zone);
  const why = plan && done ? missedOrEarly(plan, today, (at) => localDate(at, own.course.zone)) : '';
  if (!plan || !why) return;
  const setting = (await planSettings(db, snapshot, [own.student]))(own.student, today);
  const made = anew(plan, { ...setting, busy: busyOf(all.filter((p) => p !== plan)) }, why);
  if (made.ok) await db.transaction((tx) => storeAnew(tx, [made.value]));
}

/** All plans of a course, the newest first, with whose they are. */
export async function coursePlans(viewer: Viewer, code: string): Promise<CoursePlanRow[]> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const snapshot = await snapshotOf(course);
  const people = await orm
    .select({ id: enrolments.id, given: persons.given, family: persons.family })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.id));
  const nameOf = new Map(people.map((p) => [p.id, fullName(p)]));
  const all = await tickedPlans(
    snapshot,
    people.map((p) => p.id),
  );
  return all.map((plan) => ({ plan, name: nameOf.get(plan.enrolmentId) ?? '' }));
}
