import { and, asc, desc, eq, inArray, isNull, or } from 'drizzle-orm';
import type { PlanView, StepView } from '@/core/plans/plan';
import type { Access } from '../database';
import { messages, plans, planSteps, recipients, user } from '../schema';
import { HAS_GONE } from './hasGone';

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
    .where(and(inArray(plans.enrolmentId, [...enrolmentIds]), or(isNull(plans.recipientId), HAS_GONE)))
    .orderBy(desc(plans.id));
  if (heads.length === 0) return [];
  const steps = await orm
    .select()
    .from(planSteps)
    .where(
      inArray(
        planSteps.planId,
        heads.map((h) => h.plan.id),
      ),
    )
    .orderBy(asc(planSteps.position));
  const stepsOf = new Map<number, StepView[]>(heads.map((h) => [h.plan.id, []]));
  for (const s of steps) stepsOf.get(s.planId)!.push({ ...s, doneAt: s.doneAt?.getTime() ?? null });
  return heads.map(({ plan, by }) => ({
    id: plan.id,
    enrolmentId: plan.enrolmentId,
    by,
    at: plan.createdAt.getTime(),
    said: plan.said,
    steps: stepsOf.get(plan.id)!,
  }));
}
