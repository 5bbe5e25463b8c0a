import type { OneRosterCourse } from '@/core/formats/oneroster/read';
import type { CourseInPackage } from '@/core/views/intake';
import { eq } from 'drizzle-orm';
import { courses, courseStaff } from '@/data/schema';
import { database } from '../base/database';

/** What would happen to each course of the packages of an upload; empty where there is but one. */
export async function coursesBeside(
  userId: string,
  found: readonly OneRosterCourse[],
): Promise<CourseInPackage[]> {
  if (found.length < 2) return [];
  const { orm } = await database();
  const own = await orm
    .select({ code: courses.code })
    .from(courses)
    .innerJoin(courseStaff, eq(courseStaff.courseId, courses.id))
    .where(eq(courseStaff.userId, userId));
  const taught = new Set(own.map((c) => c.code));
  const taken = new Set((await orm.select({ code: courses.code }).from(courses)).map((c) => c.code));
  return found.map(({ code, title }) => ({
    code,
    title,
    standing: taught.has(code) ? 'yours' : taken.has(code) ? 'of others' : 'new',
  }));
}
