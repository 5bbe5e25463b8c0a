import { addDays, startOfDay } from '@/core/calendar/zone';
import type { PlanMoment } from '@/core/unasked/occasions';
import type { Snapshot } from '../snapshot/snapshot';
import { tickedPlans } from '../snapshot/tickedPlans';

/** When steps of study plans came to be overdue, and when plans were finished, as far as it stands in them. */
export async function planMoments(
  snapshot: Snapshot,
  students: readonly number[],
  zone: string,
): Promise<PlanMoment[]> {
  const plans = await tickedPlans(snapshot, students);
  return plans.flatMap(({ id, enrolmentId: student, steps }): PlanMoment[] => {
    const expected = steps.filter((s) => s.optional !== true);
    const overdue = expected.flatMap((step): PlanMoment[] => {
      // The day that was missed, wherever the step has been moved since.
      const at = startOfDay(addDays(step.wasOn ?? step.on, 1), zone);
      return step.doneAt != null && step.doneAt < at ? [] : [{ student, key: `overdue ${step.id}`, at }];
    });
    const done = expected.map((s) => s.doneAt);
    const last =
      done.length > 0 && done.every((d) => d != null) ? Math.max(...done.map((d) => d ?? 0)) : null;
    return [...overdue, ...(last == null ? [] : [{ student, key: `finished ${id}`, at: last }])];
  });
}
