import { eq, sql } from 'drizzle-orm';
import { courses } from '@/data/schema';
import { database } from './database';
import { requireTaught, type Viewer } from './viewer';

/** How often a stream looks whether something came in: well within the two seconds it may take to show. */
export const LOOK_EVERY_MS = 700;

/**
 * A text that changes whenever something new of a course is to be seen: events, imports, grades. Read from the
 * database, so that it also sees what another process wrote.
 */
export async function courseVersion(courseId: number): Promise<string> {
  const { orm } = await database();
  const [row] = await orm
    .select({
      rev: courses.rev,
      setupRev: courses.setupRev,
      imports: sql<string>`(select coalesce(max(id), 0) || '-' || count(undone_at) from imports where course_id = ${courseId})`,
    })
    .from(courses)
    .where(eq(courses.id, courseId));
  return row ? `${row.rev}.${row.setupRev}.${row.imports}` : 'gone';
}

/** The version of a course of the viewer's, with a way to ask again without checking anew. */
export async function watchCourse(viewer: Viewer, code: string): Promise<() => Promise<string>> {
  const course = await requireTaught(viewer, code);
  return () => courseVersion(course.id);
}
