import { and, eq, gt, sql, type SQL } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { courses, enrolments } from '@/data/schema';
import { idsIn } from '@/data/queries/idsIn';

/** Says that something of these students is new: a new revision of the course, which they carry too. */
export async function revise(
  { orm }: Access,
  courseId: number,
  ids: readonly number[],
  set: Partial<Pick<typeof courses.$inferInsert, 'dataUntil'>> = {},
): Promise<void> {
  const [row] = await orm
    .update(courses)
    .set({ ...set, rev: sql`${courses.rev} + 1` })
    .where(eq(courses.id, courseId))
    .returning({ rev: courses.rev });
  await orm.update(enrolments).set({ rev: row!.rev }).where(idsIn(enrolments.id, ids));
}

/** Students of a course of whom something came in, or was derived, after a revision. */
export async function changedSince({ orm }: Access, courseId: number, rev: number): Promise<number[]> {
  const rows = await orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, courseId), gt(enrolments.rev, rev)));
  return rows.map((r) => r.id);
}

/** A text that changes whenever an import of a course comes in or is taken back. */
export const importsMark = (courseId: number): SQL<string> =>
  sql<string>`(select coalesce(max(id), 0) || '-' || count(*) || '-' || count(undone_at) from imports
    where course_id = ${courseId} and arriving_until is null)`;
