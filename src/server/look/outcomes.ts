import { asc, eq, inArray } from 'drizzle-orm';
import type { PlanOutcome } from '@/core/plans/propose';
import { masteries, outcomes } from '@/data/schema';
import { database } from '../base/database';

/** Mastery of each outcome by enrolment, in the order of the course, ids as text. */
export async function outcomesByEnrolment(ids: readonly number[]): Promise<Map<number, PlanOutcome[]>> {
  const { orm } = await database();
  const rows = await orm
    .select({ mastery: masteries, title: outcomes.title })
    .from(masteries)
    .innerJoin(outcomes, eq(outcomes.id, masteries.outcomeId))
    .where(inArray(masteries.enrolmentId, [...ids]))
    .orderBy(asc(outcomes.position));
  const byEnrolment = new Map<number, PlanOutcome[]>();
  for (const { mastery, title } of rows) {
    const list = byEnrolment.get(mastery.enrolmentId) ?? [];
    list.push({ id: String(mastery.outcomeId), title, mean: mastery.mean, level: mastery.level });
    byEnrolment.set(mastery.enrolmentId, list);
  }
  return byEnrolment;
}
