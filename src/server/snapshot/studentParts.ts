import { asc, eq } from 'drizzle-orm';
import type { Stretch } from '@/core/activity/heat';
import type { MasteryLevel } from '@/core/outcomes/mastery';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import type { Percent } from '@/core/units';
import type { Access } from '@/data/database';
import { activityTotals, enrolments, masteries, measures, sessions, studentWeeks } from '@/data/schema';
import { ofStudents } from './days';
import { packed, packedInstant, unpack } from '@/data/queries/packed';

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

/** Level of each outcome, by student of a course. */
export async function readLevels(
  { orm }: Access,
  courseId: number,
): Promise<Map<number, ReadonlyMap<number, MasteryLevel>>> {
  const rows = await orm
    .select({ id: masteries.enrolmentId, outcomeId: masteries.outcomeId, level: masteries.level })
    .from(masteries)
    .innerJoin(enrolments, eq(enrolments.id, masteries.enrolmentId))
    .where(eq(enrolments.courseId, courseId));
  const found = new Map<number, Map<number, MasteryLevel>>();
  for (const { id, outcomeId, level } of rows) {
    let own = found.get(id);
    if (!own) found.set(id, (own = new Map()));
    own.set(outcomeId, level);
  }
  return found;
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

/** Standings of the term weeks from the first, by student of a course. */
export async function readStandings(
  { orm }: Access,
  courseId: number,
): Promise<Map<number, readonly (Percent | null)[]>> {
  const rows = await orm
    .select({
      id: studentWeeks.enrolmentId,
      week: studentWeeks.week,
      standing: studentWeeks.standing,
    })
    .from(studentWeeks)
    .innerJoin(enrolments, eq(enrolments.id, studentWeeks.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(studentWeeks.enrolmentId), asc(studentWeeks.week));
  const found = new Map<number, (Percent | null)[]>();
  for (const { id, week, standing } of rows) {
    let list = found.get(id);
    if (!list) found.set(id, (list = []));
    list[week - 1] = standing;
  }
  return found;
}
