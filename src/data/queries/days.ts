import { eq, type SQL } from 'drizzle-orm';
import type { DayRow } from '@/core/activity/dayFigures';
import type { Access } from '@/data/database';
import { dayTotals, enrolments } from '@/data/schema';
import { idsIn } from '@/data/queries/idsIn';
import { packed, unpack } from '@/data/queries/packed';

/** Condition on `enrolments`: those of a course, or some of them. */
export const ofStudents = (courseId: number, only?: readonly number[]): SQL =>
  only ? idsIn(enrolments.id, only) : eq(enrolments.courseId, courseId);

/** The days of the students of a course, or of some, in order. */
export async function loadDays(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, DayRow[]>> {
  const { day, seconds, inClassSeconds, views, contributions, secondsAt10, secondsAt30, secondsAt60 } =
    dayTotals;
  const fields = [day, seconds, inClassSeconds, views, contributions, secondsAt10, secondsAt30, secondsAt60];
  const rows = await orm
    .select({ id: dayTotals.enrolmentId, days: packed(fields, day) })
    .from(dayTotals)
    .innerJoin(enrolments, eq(enrolments.id, dayTotals.enrolmentId))
    .where(ofStudents(courseId, only))
    .groupBy(dayTotals.enrolmentId);
  return new Map(
    rows.map(({ id, days }) => [
      id,
      unpack(days, fields.length, (value): DayRow => ({
        date: value(0),
        seconds: Number(value(1)),
        inClassSeconds: Number(value(2)),
        views: Number(value(3)),
        contributions: Number(value(4)),
        at10: Number(value(5)),
        at30: Number(value(6)),
        at60: Number(value(7)),
      })),
    ]),
  );
}
