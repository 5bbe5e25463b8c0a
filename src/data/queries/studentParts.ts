import { and, asc, eq, getTableColumns } from 'drizzle-orm';
import type { Stretch } from '@/core/activity/heat';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import type { Access } from '@/data/database';
import {
  activityTotals,
  classWeeks,
  enrolments,
  flags,
  masteries,
  measures,
  outcomes,
  sessions,
  studentWeeks,
} from '@/data/schema';
import { ofStudents } from './days';
import { idsIn } from './idsIn';
import { packed, packedInstant, unpack } from '@/data/queries/packed';
import { groupBy } from '@/core/groupBy';

/** Activities that each student of a course, or some, ever opened. */
export async function readOpened(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, ReadonlySet<number>>> {
  const rows = await orm
    .select({ id: activityTotals.enrolmentId, ids: packed([activityTotals.activityId]) })
    .from(activityTotals)
    .innerJoin(enrolments, eq(enrolments.id, activityTotals.enrolmentId))
    .where(ofStudents(courseId, only))
    .groupBy(activityTotals.enrolmentId);
  return new Map(rows.map((r) => [r.id, new Set(r.ids.split(',').map(Number))]));
}

/** Sessions of each student of a course, or of some, ascending. */
export async function readSessions(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, Stretch[]>> {
  const { startedAt, endedAt, seconds } = sessions;
  const fields = [packedInstant(startedAt), packedInstant(endedAt), seconds];
  const rows = await orm
    .select({ id: sessions.enrolmentId, all: packed(fields, startedAt) })
    .from(sessions)
    .innerJoin(enrolments, eq(enrolments.id, sessions.enrolmentId))
    .where(ofStudents(courseId, only))
    .groupBy(sessions.enrolmentId);
  return new Map(
    rows.map(({ id, all }) => [
      id,
      unpack(all, fields.length, (value): Stretch => ({
        from: Number(value(0)),
        until: Number(value(1)),
        seconds: Number(value(2)),
      })),
    ]),
  );
}

/** The measures of the last evaluation, by student of a course. */
export async function readMeasures({ orm }: Access, courseId: number): Promise<Map<number, StudentMeasures>> {
  const rows = await orm
    .select({ id: measures.enrolmentId, m: measures.measures })
    .from(measures)
    .innerJoin(enrolments, eq(enrolments.id, measures.enrolmentId))
    .where(eq(enrolments.courseId, courseId));
  return new Map(rows.map((r) => [r.id, r.m]));
}

/** Mastery of each outcome of a course, in its order, by student; of some students where they are named. */
export async function readMasteries({ orm }: Access, courseId: number, only?: readonly number[]) {
  const rows = await orm
    .select({ mastery: masteries, title: outcomes.title })
    .from(masteries)
    .innerJoin(outcomes, eq(outcomes.id, masteries.outcomeId))
    .where(and(eq(outcomes.courseId, courseId), only ? idsIn(masteries.enrolmentId, only) : undefined))
    .orderBy(asc(outcomes.position), asc(outcomes.id));
  return groupBy(
    rows.map(({ mastery, title }) => ({ ...mastery, title })),
    (r) => r.enrolmentId,
  );
}

/** The term weeks so far, from the first, by student of a course. */
export async function readWeeks({ orm }: Access, courseId: number) {
  const rows = await orm
    .select(getTableColumns(studentWeeks))
    .from(studentWeeks)
    .innerJoin(enrolments, eq(enrolments.id, studentWeeks.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(studentWeeks.enrolmentId), asc(studentWeeks.week));
  return groupBy(rows, (r) => r.enrolmentId);
}

/** The term weeks of a class so far, from the first. */
export const readClassWeeks = ({ orm }: Access, courseId: number) =>
  orm.select().from(classWeeks).where(eq(classWeeks.courseId, courseId)).orderBy(asc(classWeeks.week));

/** The flags of a course by student, the open ones and the history, as they were first opened. */
export async function readFlags({ orm }: Access, courseId: number) {
  const rows = await orm
    .select(getTableColumns(flags))
    .from(flags)
    .innerJoin(enrolments, eq(enrolments.id, flags.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(flags.id));
  return groupBy(rows, (r) => r.enrolmentId);
}
