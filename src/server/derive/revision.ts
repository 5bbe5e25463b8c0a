import { eq, sql } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { courses, enrolments } from '@/data/schema';
import { idsIn } from './idsIn';

/** Says that something of these students is new: a new revision of the course, which they carry too. */
export async function revise(
  { orm }: Access,
  courseId: number,
  ids: readonly number[],
  set: Partial<Pick<typeof courses.$inferInsert, 'dataUntil' | 'evaluatedAt'>> = {},
): Promise<void> {
  const [row] = await orm
    .update(courses)
    .set({ ...set, rev: sql`${courses.rev} + 1` })
    .where(eq(courses.id, courseId))
    .returning({ rev: courses.rev });
  await orm.update(enrolments).set({ rev: row!.rev }).where(idsIn(enrolments.id, ids));
}
