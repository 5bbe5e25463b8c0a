import { and, eq } from 'drizzle-orm';
import type { GivenTarget } from '@/core/plans/given';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { enrolments, groupMembers, groups, groupStaff } from '@/data/schema';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';

/**
 * Who is in a target as things stand: the active students of the course, of a section, or of a group that whoever asks may
 * write to. Nobody where the section or group is gone.
 */
export async function targetMembers(
  { orm }: Pick<Access, 'orm'>,
  course: CourseRow,
  target: GivenTarget,
  userId: string,
): Promise<number[]> {
  const rows = await orm
    .select({ id: enrolments.id, section: enrolments.sectionId })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.status, 'active')));
  if (target === 'all') return rows.map((r) => r.id);
  const id = Number(target.replace(/\D/, ''));
  if (target.startsWith('a')) {
    const traits = await classTraits(await snapshotOf(course));
    const audience = traits.audiences.find((a) => a.id === id);
    return audience ? [...(await traits.members(audience)).match] : [];
  }
  if (target.startsWith('m')) {
    const members = await orm
      .select({ id: groupMembers.enrolmentId })
      .from(groupMembers)
      .innerJoin(groups, eq(groups.id, groupMembers.groupId))
      .innerJoin(groupStaff, and(eq(groupStaff.groupId, groups.id), eq(groupStaff.userId, userId)))
      .where(eq(groups.id, id));
    const inGroup = new Set(members.map((m) => m.id));
    return rows.filter((r) => inGroup.has(r.id)).map((r) => r.id);
  }
  return rows.filter((r) => r.section === id).map((r) => r.id);
}
