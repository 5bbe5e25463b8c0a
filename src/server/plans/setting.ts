import { localDate } from '@/core/calendar/zone';
import { isResource } from '@/core/course/kinds';
import { dueFor } from '@/core/gradebook/status';
import { prerequisitesById } from '@/core/outcomes/prerequisites';
import type { PlanSetting, StudyTimes } from '@/core/plans/replan';
import { restsOnBy } from '@/core/plans/restsOn';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { now } from '../base/clock';
import type { Snapshot } from '../snapshot/snapshot';
import { pacesOf } from '../snapshot/studyTimes';

/** What the plans of each of some students have to fit, from a day on. */
export async function planSettings(
  access: Pick<Access, 'orm'>,
  snapshot: Snapshot,
  ids: readonly number[],
): Promise<(student: number, from: LocalDate, said?: StudyTimes) => PlanSetting> {
  const model = await snapshot.model();
  const scores = await snapshot.scores();
  const paceOf = await pacesOf(access, snapshot, ids);
  const activityOf = new Map(model.activities.map((a) => [a.id, a]));
  const restsOn = restsOnBy(prerequisitesById(model.outcomes), (id) => model.covers.get(String(id)) ?? []);
  const today = localDate(now(), model.term.zone);
  return (student, from, said) => ({
    from,
    today,
    times: said ?? paceOf(student, 0),
    term: model.term,
    dueOf: (id) => {
      const due = dueFor(
        { due: activityOf.get(id)?.dueAt?.getTime() ?? null },
        scores.get(student)?.get(String(id)),
      );
      return due == null ? null : localDate(due, model.term.zone);
    },
    isAssignment: (id) => !isResource(activityOf.get(id)?.kind ?? 'page'),
    restsOn,
    doneOn: ({ doneAt }) => (doneAt == null ? null : localDate(doneAt, model.term.zone)),
  });
}
