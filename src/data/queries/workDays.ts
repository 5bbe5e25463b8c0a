import { eq, sql } from 'drizzle-orm';
import type { WorkDays } from '@/core/activity/workDays';
import type { Access } from '@/data/database';
import { activityDays, enrolments } from '@/data/schema';
import { ofStudents } from './days';
import { packed } from '@/data/queries/packed';

/** Numbers a row of `WorkDays` is packed from. */
const WORK_FIELDS = 6;

/** What the students of a course, or some, did with which activity on which day. */
export async function loadWorkDays(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, WorkDays>> {
  const { activityId, day, seconds, inClassSeconds, views, contributions } = activityDays;
  const rows = await orm
    .select({
      id: activityDays.enrolmentId,
      text: packed([
        activityId,
        sql`${day} - date '1970-01-01'`,
        seconds,
        inClassSeconds,
        views,
        contributions,
      ]),
    })
    .from(activityDays)
    .innerJoin(enrolments, eq(enrolments.id, activityDays.enrolmentId))
    .where(ofStudents(courseId, only))
    .groupBy(activityDays.enrolmentId);
  return new Map(
    rows.map(({ id, text }) => {
      const numbers = text.split(',');
      const count = numbers.length / WORK_FIELDS;
      const column = <A extends Int32Array | Float64Array>(into: A, place: number): A => {
        for (let i = 0; i < count; i++) into[i] = Number(numbers[i * WORK_FIELDS + place]);
        return into;
      };
      return [
        id,
        {
          count,
          activity: column(new Int32Array(count), 0),
          day: column(new Int32Array(count), 1),
          seconds: column(new Float64Array(count), 2),
          inClassSeconds: column(new Float64Array(count), 3),
          views: column(new Int32Array(count), 4),
          contributions: column(new Int32Array(count), 5),
        },
      ];
    }),
  );
}
