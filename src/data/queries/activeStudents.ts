import { and, eq } from 'drizzle-orm';
import type { Access } from '../database';
import { enrolments } from '../schema';

/** The enrolments of a course that are active. */
export async function activeStudents({ orm }: Pick<Access, 'orm'>, courseId: number): Promise<number[]> {
  const rows = await orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, courseId), eq(enrolments.status, 'active')));
  return rows.map((r) => r.id);
}
