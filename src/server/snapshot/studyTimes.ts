import { eq } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { planPace } from '@/core/plans/pace';
import type { StudyTimes } from '@/core/plans/replan';
import type { Access } from '@/data/database';
import { studyTimes } from '@/data/schema';
import { now } from '../base/clock';
import type { Snapshot } from './snapshot';

/** Days in which a student's usual minutes are looked for. */
const USUAL_DAYS = 28;

/** When a student learns: as they said, else their usual minutes and no day off. */
export async function studyTimesOf(
  { orm }: Pick<Access, 'orm'>,
  snapshot: Snapshot,
  enrolmentId: number,
): Promise<StudyTimes> {
  const [said] = await orm.select().from(studyTimes).where(eq(studyTimes.enrolmentId, enrolmentId));
  if (said) return { minutesPerDay: said.minutesPerDay, weekdaysOff: said.weekdaysOff };
  const { row } = await snapshot.model();
  const recent = addDays(localDate(now(), row.zone), -USUAL_DAYS);
  const days = (await snapshot.days()).get(enrolmentId) ?? [];
  const { minutesPerDay } = planPace(
    days.filter((d) => d.date >= recent).map((d) => d.seconds / 60),
    0,
  );
  return { minutesPerDay, weekdaysOff: [] };
}
