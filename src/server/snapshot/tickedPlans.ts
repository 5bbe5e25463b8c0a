import { isResource } from '@/core/course/kinds';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { isReturned, isSubmitted } from '@/core/gradebook/status';
import { dayOfNumber, eachWorkDay } from '@/core/activity/workDays';
import { PASSED_SHARE, tickedPlan } from '@/core/plans/ticks';
import type { PlanView } from '@/core/plans/plan';
import { lastAttempts, plansOf } from '@/data/queries/plans';
import { now } from '../base/clock';
import { database } from '../base/database';
import type { Snapshot } from './snapshot';

/** The plans of students as they stand: with what was done without a tick ticked. */
export async function tickedPlans(snapshot: Snapshot, ids: readonly number[]): Promise<PlanView[]> {
  const all = await plansOf(await database(), ids);
  if (all.length === 0) return [];
  const { activities, term } = await snapshot.model();
  const kindOf = new Map(activities.map((a) => [a.id, a.kind]));
  const scores = await snapshot.scores();
  const workDays = await snapshot.workDays();
  const pointsOf = new Map(activities.map((a) => [a.id, a.points]));
  const further = all.flatMap((p) => p.steps.flatMap((s) => (s.further ? (s.activityId ?? []) : [])));
  const last = await lastAttempts(await database(), [...new Set(further)], ids);
  const at = now();
  return all.map((plan) => {
    const own = workDays.get(plan.enrolmentId);
    return tickedPlan(plan, {
      isAssignment: (id) => !isResource(kindOf.get(id) ?? 'page'),
      handedIn: (id) => {
        const score = scores.get(plan.enrolmentId)?.get(String(id));
        const most = pointsOf.get(id);
        const passed = isReturned(score, at) && most ? score!.points! >= PASSED_SHARE * most : false;
        const when = isSubmitted(score, at) ? score!.submitted : passed ? score!.returned : null;
        return when == null ? null : { at: when, passed };
      },
      lastAttempt: (id) => last.get(`${plan.enrolmentId} ${id}`) ?? null,
      spentSince: (id, from) => {
        let seconds = 0;
        let last = from;
        eachWorkDay(own, { from, to: localDate(at, term.zone) }, (i) => {
          if (own!.activity[i] !== id) return;
          seconds += own!.seconds[i]!;
          last = dayOfNumber(own!.day[i]!);
        });
        return { minutes: seconds / 60, at: startOfDay(last, term.zone) };
      },
      dayOf: (instant) => localDate(instant, term.zone),
    });
  });
}
