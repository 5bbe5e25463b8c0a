import { and, asc, eq } from 'drizzle-orm';
import type { ClassRecord, DayRecord } from '@/core/risk/classRecord';
import type { Access } from '@/data/database';
import { dayTotals, enrolments, events } from '@/data/schema';
import type { CourseModel } from './courseModel';
import { loadScores, type FullScore } from './scores';

/**
 * Everything on record of the active students of a course: the input of the measures.
 *
 * @param known their scores, if the caller has them at hand
 */
export async function loadClassRecord(
  access: Access,
  course: CourseModel,
  known?: ReadonlyMap<number, ReadonlyMap<string, FullScore>>,
): Promise<ClassRecord> {
  const { orm } = access;
  const active = and(eq(enrolments.courseId, course.row.id), eq(enrolments.status, 'active'));
  const roster = await orm
    .select({ id: enrolments.id, joined: enrolments.joinedOn })
    .from(enrolments)
    .where(active)
    .orderBy(asc(enrolments.id));
  const dayRows = await orm
    .select({
      enrolmentId: dayTotals.enrolmentId,
      date: dayTotals.day,
      seconds: dayTotals.seconds,
      inClassSeconds: dayTotals.inClassSeconds,
    })
    .from(dayTotals)
    .innerJoin(enrolments, eq(enrolments.id, dayTotals.enrolmentId))
    .where(active)
    .orderBy(asc(dayTotals.enrolmentId), asc(dayTotals.day));
  const scoresOf = known ?? (await loadScores(access, course.row.id));
  const days = new Map<number, DayRecord[]>(roster.map((r) => [r.id, []]));
  for (const { enrolmentId, ...day } of dayRows) days.get(enrolmentId)?.push(day);
  return {
    term: course.term,
    book: course.book,
    works: course.works,
    students: roster.map((r) => ({
      id: r.id,
      joined: r.joined ?? course.term.start,
      days: days.get(r.id)!,
      scores: scoresOf.get(r.id) ?? new Map(),
    })),
  };
}

/** Whether anything at all has come in for a course. */
export async function hasEvents({ orm }: Access, courseId: number): Promise<boolean> {
  const found = await orm
    .select({ id: events.eventId })
    .from(events)
    .where(eq(events.courseId, courseId))
    .limit(1);
  return found.length > 0;
}
