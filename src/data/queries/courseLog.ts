import { desc, eq } from 'drizzle-orm';
import type { CourseLogLine } from '@/core/views/courseLog';
import type { Access } from '../database';
import { courseLog, user } from '../schema';

/** Notes what was changed that all who teach a course share; in the transaction that changes it. */
export async function noteInCourse(
  { orm }: Access,
  entry: Pick<typeof courseLog.$inferInsert, 'courseId' | 'userId' | 'at' | 'what'>,
): Promise<void> {
  await orm.insert(courseLog).values(entry);
}

/** The latest of it first. */
export async function courseLogOf({ orm }: Access, courseId: number, most: number): Promise<CourseLogLine[]> {
  const rows = await orm
    .select({ id: courseLog.id, at: courseLog.at, what: courseLog.what, by: user.name })
    .from(courseLog)
    .leftJoin(user, eq(user.id, courseLog.userId))
    .where(eq(courseLog.courseId, courseId))
    .orderBy(desc(courseLog.id))
    .limit(most);
  return rows.map((r) => ({ ...r, at: r.at.getTime() }));
}
