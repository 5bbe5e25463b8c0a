import { and, asc, eq } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import type { ClassRecord } from '@/core/course/record';
import type { Access } from '@/data/database';
import { enrolments, groupMembers, seenEvents } from '@/data/schema';
import type { CourseModel } from './courseModel';
import { loadDays } from './days';
import { type DayRow } from '@/core/activity/dayFigures';
import { loadScores, type FullScore } from './scores';

/**
 * Everything on record of the active students of a course: the input of the measures.
 *
 * @param known their scores, and their days, if the caller has them at hand
 */
export async function loadClassRecord(
  access: Access,
  course: CourseModel,
  known?: ReadonlyMap<number, ReadonlyMap<string, FullScore>>,
  knownDays?: ReadonlyMap<number, readonly DayRow[]>,
): Promise<ClassRecord> {
  const { orm } = access;
  const active = and(eq(enrolments.courseId, course.row.id), eq(enrolments.status, 'active'));
  const roster = await orm
    .select({ id: enrolments.id, joined: enrolments.joinedOn, section: enrolments.sectionId })
    .from(enrolments)
    .where(active)
    .orderBy(asc(enrolments.id));
  const grouped = await orm
    .select({ group: groupMembers.groupId, member: groupMembers.enrolmentId })
    .from(groupMembers)
    .innerJoin(enrolments, eq(enrolments.id, groupMembers.enrolmentId))
    .where(active)
    .orderBy(asc(groupMembers.groupId));
  const groupsOf = groupBy(grouped, (g) => g.member);
  const scoresOf = known ?? (await loadScores(access, course.row.id));
  const daysOf = knownDays ?? (await loadDays(access, course.row.id));
  return {
    term: course.term,
    book: course.book,
    works: course.works,
    students: roster.map((r) => ({
      id: r.id,
      joined: r.joined ?? course.term.start,
      days: daysOf.get(r.id) ?? [],
      scores: scoresOf.get(r.id) ?? new Map(),
      parts: [
        ...(r.section == null ? [] : [`s${r.section}` as const]),
        ...(groupsOf.get(r.id) ?? []).map((g) => `m${g.group}` as const),
      ],
    })),
  };
}

/** Whether anything at all has come in for a course. */
export async function hasEvents({ orm }: Access, courseId: number): Promise<boolean> {
  const found = await orm
    .select({ id: seenEvents.eventId })
    .from(seenEvents)
    .where(eq(seenEvents.courseId, courseId))
    .limit(1);
  return found.length > 0;
}
