import { asc, eq } from 'drizzle-orm';
import type { PartOfClass } from '@/core/course/parts';
import type { Access } from '../database';
import { enrolments, groupMembers, groups, sections } from '../schema';

/** The sections of a course, and the groups with somebody in it, by name. */
export async function partsOf(
  { orm }: Access,
  courseId: number,
): Promise<{ part: PartOfClass; name: string }[]> {
  const own = await orm
    .select({ id: sections.id, name: sections.name })
    .from(sections)
    .where(eq(sections.courseId, courseId))
    .orderBy(asc(sections.id));
  const grouped = await orm
    .selectDistinct({ id: groups.id, name: groups.name })
    .from(groups)
    .innerJoin(groupMembers, eq(groupMembers.groupId, groups.id))
    .innerJoin(enrolments, eq(enrolments.id, groupMembers.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(groups.name), asc(groups.id));
  return [
    ...own.map(({ id, name }) => ({ part: `s${id}` as const, name })),
    ...grouped.map(({ id, name }) => ({ part: `m${id}` as const, name })),
  ];
}
