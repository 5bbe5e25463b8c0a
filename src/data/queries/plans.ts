import { and, asc, desc, eq, isNull, or, sql } from 'drizzle-orm';
import { readDesign, readPlanParts } from '@/core/forms/design';
import type { PlanDesign } from '@/core/plans/design';
import type { PlanView, StepView } from '@/core/plans/plan';
import type { OutcomeAnswer } from '@/core/plans/reviews';
import { groupBy } from '@/core/groupBy';
import type { Access } from '../database';
import {
  activityOutcomes,
  answersNow,
  attempts,
  enrolments,
  givenBatches,
  messages,
  planCourses,
  planDesigns,
  plans,
  planSteps,
  recipients,
  scores,
  user,
} from '../schema';
import { HAS_GONE } from './hasGone';
import { idsIn } from './idsIn';

/** The plans of enrolments, the newest first, each with its steps in order. */
export async function plansOf({ orm }: Access, enrolmentIds: readonly number[]): Promise<PlanView[]> {
  if (enrolmentIds.length === 0) return [];
  const heads = await orm
    .select({ plan: plans, by: user.name })
    .from(plans)
    .innerJoin(user, eq(user.id, plans.userId))
    .leftJoin(recipients, eq(recipients.id, plans.recipientId))
    .leftJoin(messages, eq(messages.id, recipients.messageId))
    // A plan is there once the message it came with has gone.
    .where(and(idsIn(plans.enrolmentId, enrolmentIds), or(isNull(plans.recipientId), HAS_GONE)))
    .orderBy(desc(plans.id));
  if (heads.length === 0) return [];
  const steps = await orm
    .select()
    .from(planSteps)
    .where(
      idsIn(
        planSteps.planId,
        heads.map((h) => h.plan.id),
      ),
    )
    .orderBy(asc(planSteps.planId), asc(planSteps.position));
  const stepsOf = new Map<number, StepView[]>(heads.map((h) => [h.plan.id, []]));
  for (const { planId, doneAt, lessonAt, position: _, ...s } of steps)
    stepsOf
      .get(planId)!
      .push({ ...s, doneAt: doneAt?.getTime() ?? null, lessonAt: lessonAt?.getTime() ?? null });
  return heads.map(({ plan, by }) => ({
    id: plan.id,
    enrolmentId: plan.enrolmentId,
    by,
    at: plan.createdAt.getTime(),
    designId: plan.designId,
    title: plan.title,
    said: plan.said,
    saidAt: plan.saidAt?.getTime() ?? null,
    parts: readPlanParts(plan.parts),
    steps: stepsOf.get(plan.id)!,
  }));
}

export type DesignRow = Omit<typeof planDesigns.$inferSelect, 'design'> & { readonly design: PlanDesign };

/** The plan designs of a course, the newest first. */
export async function designsOf({ orm }: Access, courseId: number): Promise<DesignRow[]> {
  const rows = await orm
    .select()
    .from(planDesigns)
    .where(eq(planDesigns.courseId, courseId))
    .orderBy(desc(planDesigns.id));
  return rows.map((row) => ({ ...row, design: readDesign(row.design) }));
}

/** Whether a course has plans to bring up to date: a design that is on, a plan, or something assigned that is not open yet. */
export async function hasPlans({ orm }: Access, courseId: number): Promise<boolean> {
  const { rows } = (await orm.execute(sql`select
    exists (select 1 from ${planDesigns} where ${planDesigns.courseId} = ${courseId} and ${planDesigns.state} = 'on')
    or exists (select 1 from ${plans} join ${enrolments} on ${enrolments.id} = ${plans.enrolmentId}
      where ${enrolments.courseId} = ${courseId})
    or exists (select 1 from ${givenBatches} where ${givenBatches.courseId} = ${courseId}
      and ${givenBatches.target} is not null and ${givenBatches.undoneAt} is null and ${givenBatches.opensAt} is not null)
    as found`)) as unknown as { rows: { found: boolean }[] };
  return rows[0]?.found === true;
}

/** Up to where the plans of a course are up to date. */
export async function planCourseOf({ orm }: Access, courseId: number) {
  const [row] = await orm.select().from(planCourses).where(eq(planCourses.courseId, courseId));
  return row ?? null;
}

/** The points of each attempt of students at some activities, in their order, by student and activity. */
export async function attemptPoints(
  { orm }: Access,
  activityIds: readonly number[],
  students: readonly number[],
): Promise<Map<number, Map<number, (number | null)[]>>> {
  if (activityIds.length === 0 || students.length === 0) return new Map();
  const rows = await orm
    .select()
    .from(attempts)
    .where(and(idsIn(attempts.activityId, activityIds), idsIn(attempts.enrolmentId, students)))
    .orderBy(asc(attempts.number));
  return new Map(
    [...groupBy(rows, (r) => r.enrolmentId)].map(([student, own]) => [
      student,
      new Map([...groupBy(own, (r) => r.activityId)].map(([id, list]) => [id, list.map((r) => r.points)])),
    ]),
  );
}

/** When each student handed an activity in for the last time, as "student activity". */
export async function lastAttempts(
  { orm }: Access,
  activityIds: readonly number[],
  students: readonly number[],
): Promise<Map<string, number>> {
  if (activityIds.length === 0 || students.length === 0) return new Map();
  const rows = await orm
    .select({
      student: attempts.enrolmentId,
      activity: attempts.activityId,
      at: sql`extract(epoch from max(${attempts.submittedAt})) * 1000`.mapWith(Number),
    })
    .from(attempts)
    .where(and(idsIn(attempts.activityId, activityIds), idsIn(attempts.enrolmentId, students)))
    .groupBy(attempts.enrolmentId, attempts.activityId);
  return new Map(rows.map((r) => [`${r.student} ${r.activity}`, r.at]));
}

/** The scores of first answers of students to an activity, by student and item. */
export async function firstScores(
  { orm }: Access,
  activityId: number,
  students: readonly number[],
): Promise<Map<number, Map<string, number>>> {
  if (students.length === 0) return new Map();
  const rows = await orm
    .select({
      student: answersNow.enrolmentId,
      item: answersNow.item,
      score: sql`${answersNow.score}`.mapWith(Number),
    })
    .from(answersNow)
    .where(
      and(
        eq(answersNow.activityId, activityId),
        idsIn(answersNow.enrolmentId, students),
        eq(answersNow.attempt, 1),
        sql`${answersNow.score} is not null`,
      ),
    );
  return new Map(
    [...groupBy(rows, (r) => r.student)].map(([id, own]) => [id, new Map(own.map((r) => [r.item, r.score]))]),
  );
}

/** Answers of students with their instants, to the items behind each outcome; right is the whole score. */
export async function outcomeAnswers(
  { orm }: Access,
  students: readonly number[],
): Promise<Map<number, OutcomeAnswer[]>> {
  if (students.length === 0) return new Map();
  const at = sql`coalesce(${answersNow.at}, ${attempts.submittedAt}, ${scores.submittedAt})`;
  const rows = await orm
    .select({
      student: answersNow.enrolmentId,
      activity: sql`${answersNow.activityId}`.mapWith(Number),
      item: answersNow.item,
      outcome: activityOutcomes.outcomeId,
      right: sql<boolean>`${answersNow.score} >= 1`,
      // Where a file does not say when, it was when the attempt was handed in.
      at: sql`extract(epoch from ${at}) * 1000`.mapWith(Number),
    })
    .from(answersNow)
    .innerJoin(activityOutcomes, eq(activityOutcomes.activityId, answersNow.activityId))
    .leftJoin(
      attempts,
      and(
        eq(attempts.enrolmentId, answersNow.enrolmentId),
        eq(attempts.activityId, answersNow.activityId),
        eq(attempts.number, answersNow.attempt),
      ),
    )
    .leftJoin(
      scores,
      and(eq(scores.enrolmentId, answersNow.enrolmentId), eq(scores.activityId, answersNow.activityId)),
    )
    .where(
      and(
        idsIn(answersNow.enrolmentId, students),
        sql`${answersNow.score} is not null`,
        sql`${at} is not null`,
      ),
    );
  return groupBy(
    rows.map(({ activity, item, ...r }) => ({ ...r, item: `${activity} ${item}` })),
    (r) => r.student,
  );
}
