import { addDays, localDate } from '@/core/calendar/zone';
import { planPace, type PlanPace } from '@/core/plans/pace';
import type { StudyTimes } from '@/core/plans/replan';
import type { Access } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import { studyTimes } from '@/data/schema';
import { now } from '../base/clock';
import type { Snapshot } from './snapshot';

/** Days in which a student's usual minutes are looked for. */
const USUAL_DAYS = 28;

/** The pace of a student: as they said, else by their usual minutes on an active day and with no day off. */
export async function pacesOf(
  { orm }: Pick<Access, 'orm'>,
  snapshot: Snapshot,
  ids: readonly number[],
): Promise<(student: number, daysSince: number | null) => PlanPace & StudyTimes> {
  const said = new Map(
    (await orm.select().from(studyTimes).where(idsIn(studyTimes.enrolmentId, ids))).map((r) => [
      r.enrolmentId,
      { minutesPerDay: r.minutesPerDay, weekdaysOff: r.weekdaysOff },
    ]),
  );
  const { row } = await snapshot.model();
  const recent = addDays(localDate(now(), row.zone), -USUAL_DAYS);
  const days = await snapshot.days();
  return (student, daysSince) => ({
    ...planPace(
      (days.get(student) ?? []).filter((d) => d.date >= recent).map((d) => d.seconds / 60),
      daysSince,
    ),
    weekdaysOff: [],
    ...said.get(student),
  });
}

/** When a student learns. */
export async function studyTimesOf(
  access: Pick<Access, 'orm'>,
  snapshot: Snapshot,
  enrolmentId: number,
): Promise<StudyTimes> {
  const { minutesPerDay, weekdaysOff } = (await pacesOf(access, snapshot, [enrolmentId]))(enrolmentId, 0);
  return { minutesPerDay, weekdaysOff };
}
