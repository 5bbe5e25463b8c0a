import { asc, eq } from 'drizzle-orm';
import type { PartOfClass } from '@/core/course/parts';
import { groupBy } from '@/core/groupBy';
import type { Access } from '../database';
import { enrolments, groupMembers, groups, sections } from '../schema';

/** A group, and who of a course is in it. */
export interface GroupIn {
  readonly id: number;
  readonly name: string;
  readonly members: ReadonlySet<number>;
}

/** The groups with somebody in a course, by name. */
export async function groupsIn({ orm }: Access, courseId: number): Promise<GroupIn[]> {
  const rows = await orm
    .select({ id: groups.id, name: groups.name, member: groupMembers.enrolmentId })
    .from(groups)
    .innerJoin(groupMembers, eq(groupMembers.groupId, groups.id))
    .innerJoin(enrolments, eq(enrolments.id, groupMembers.enrolmentId))
    .where(eq(enrolments.courseId, courseId))
    .orderBy(asc(groups.name), asc(groups.id));
  return [...groupBy(rows, (r) => r.id)].map(([id, own]) => ({
    id,
    name: own[0]!.name,
    members: new Set(own.map((r) => r.member)),
  }));
}

/** The sections of a course, and the groups with somebody in it, by name. */
export async function partsOf(
  access: Access,
  courseId: number,
): Promise<{ part: PartOfClass; name: string }[]> {
  const own = await access.orm
    .select({ id: sections.id, name: sections.name })
    .from(sections)
    .where(eq(sections.courseId, courseId))
    .orderBy(asc(sections.id));
  const grouped = await groupsIn(access, courseId);
  return [
    ...own.map(({ id, name }) => ({ part: `s${id}` as const, name })),
    ...grouped.map(({ id, name }) => ({ part: `m${id}` as const, name })),
  ];
}
