import type { OneRosterCourse } from '@/core/formats/oneroster/read';
import type { CourseInPackage } from '@/core/views/intake';
import { courses } from '@/data/schema';
import { database } from '../database';
import { taughtCourses, type Viewer } from '../viewer';

/** What would happen to each course of the packages of an upload; empty where there is but one. */
export async function coursesBeside(
  viewer: Viewer,
  found: readonly OneRosterCourse[],
): Promise<CourseInPackage[]> {
  if (found.length < 2) return [];
  const taught = new Set((await taughtCourses(viewer)).map((c) => c.code));
  const { orm } = await database();
  const taken = new Set((await orm.select({ code: courses.code }).from(courses)).map((c) => c.code));
  return found.map(({ code, title }) => ({
    code,
    title,
    standing: taught.has(code) ? 'yours' : taken.has(code) ? 'of others' : 'new',
  }));
}
