import type { GivenChange, GivenDates } from '@/core/plans/given';
import type { Access } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import { revise } from '@/data/queries/revision';
import { accommodations, assignedActivities } from '@/data/schema';
import { deleteMany, upsertMany } from '@/data/write/bulk';
import { nowDate } from '../base/clock';
import { outdated } from '../derive/outdated';
import { setupChanged } from '../derive/setupChanged';

/** What each of some students has of some activities by name, with its dates. */
export async function givenTo(
  { orm }: Access,
  activityIds: readonly number[],
): Promise<(student: number, activity: number) => GivenDates | null> {
  const rows = await orm
    .select()
    .from(assignedActivities)
    .where(idsIn(assignedActivities.activityId, activityIds));
  const of = new Map(rows.map((r) => [`${r.enrolmentId} ${r.activityId}`, r]));
  return (student, activity) => {
    const row = of.get(`${student} ${activity}`);
    return row
      ? {
          opensAt: row.opensAt?.getTime() ?? null,
          dueAt: row.dueAt?.getTime() ?? null,
          closesAt: row.closesAt?.getTime() ?? null,
        }
      : null;
  };
}

/** Per cent of more time that students get. */
export async function moreTimeOf({ orm }: Access, students: readonly number[]) {
  const rows = await orm.select().from(accommodations).where(idsIn(accommodations.enrolmentId, students));
  const of = new Map(rows.map((r) => [r.enrolmentId, r.moreTime]));
  return (student: number) => of.get(student) ?? 0;
}

export const dateOf = (at: number | null) => (at == null ? null : new Date(at));

/** Writes what is given and removed, in a transaction that holds the course. */
export async function writeGiven(
  tx: Access,
  changes: readonly GivenChange[],
  to: 'before' | 'after',
): Promise<void> {
  const keys = [assignedActivities.enrolmentId, assignedActivities.activityId];
  const place = ({ enrolmentId, activityId }: GivenChange) => ({ enrolmentId, activityId });
  await deleteMany(tx, assignedActivities, keys, changes.filter((c) => c[to] == null).map(place));
  await upsertMany(
    tx,
    assignedActivities,
    keys,
    changes.flatMap((c) => {
      const dates = c[to];
      return dates
        ? [
            {
              ...place(c),
              opensAt: dateOf(dates.opensAt),
              dueAt: dateOf(dates.dueAt),
              closesAt: dateOf(dates.closesAt),
              at: nowDate(),
            },
          ]
        : [];
    }),
  );
}

/** Has whatever follows from what is expected of whom computed anew. */
export async function follows(tx: Access, courseId: number, students: readonly number[], setup: boolean) {
  await revise(tx, courseId, [...new Set(students)]);
  await (setup ? setupChanged(tx, courseId) : outdated(tx, courseId));
}
