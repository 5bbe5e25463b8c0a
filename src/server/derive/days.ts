import { asc, eq, type SQL } from 'drizzle-orm';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { dayTotals, enrolments } from '@/data/schema';
import { idsIn } from './idsIn';

export interface DayRow {
  readonly date: LocalDate;
  readonly seconds: number;
  readonly inClassSeconds: number;
  readonly views: number;
  readonly contributions: number;
  readonly at10: number;
  readonly at30: number;
  readonly at60: number;
}

/** Condition on `enrolments`: those of a course, or some of them. */
export const ofStudents = (courseId: number, only?: readonly number[]): SQL =>
  only ? idsIn(enrolments.id, only) : eq(enrolments.courseId, courseId);

/** The days of the students of a course, or of some, in order. */
export async function loadDays(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, DayRow[]>> {
  const rows = await orm
    .select({
      id: dayTotals.enrolmentId,
      date: dayTotals.day,
      seconds: dayTotals.seconds,
      inClassSeconds: dayTotals.inClassSeconds,
      views: dayTotals.views,
      contributions: dayTotals.contributions,
      at10: dayTotals.secondsAt10,
      at30: dayTotals.secondsAt30,
      at60: dayTotals.secondsAt60,
    })
    .from(dayTotals)
    .innerJoin(enrolments, eq(enrolments.id, dayTotals.enrolmentId))
    .where(ofStudents(courseId, only))
    .orderBy(asc(dayTotals.enrolmentId), asc(dayTotals.day));
  const byStudent = new Map<number, DayRow[]>();
  for (const { id, ...day } of rows) {
    let list = byStudent.get(id);
    if (!list) byStudent.set(id, (list = []));
    list.push(day);
  }
  return byStudent;
}
