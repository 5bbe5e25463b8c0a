import { eq } from 'drizzle-orm';
import { courses } from '@/data/schema';
import { database } from '../base/database';
import { importsMark } from '@/data/queries/revision';
import { requireCourse, type Viewer } from '../access/viewer';

/** How often it is looked whether something came in: well within the two seconds it may take to show. */
export const LOOK_EVERY_MS = 350;
/** How long one look at the database serves every page that looks. */
const SHARED_MS = 500;

/**
 * A text that changes whenever something new of a course is to be seen: events, imports, grades, flags. Read from the
 * database, so that it also sees what another process wrote.
 */
export async function courseVersion(courseId: number): Promise<string> {
  const { orm } = await database();
  const { rev, setupRev, evaluatedAt } = courses;
  const [row] = await orm
    .select({ rev, setupRev, evaluatedAt, imports: importsMark(courseId) })
    .from(courses)
    .where(eq(courses.id, courseId));
  if (!row) return 'gone';
  // While flags are about to be evaluated anew, those of the last evaluation are to be seen.
  const evaluated = (holder.lanternEvaluated ??= new Map());
  if (row.evaluatedAt) evaluated.set(courseId, row.evaluatedAt.getTime());
  return `${row.rev}.${row.setupRev}.${row.imports}.${evaluated.get(courseId) ?? 0}`;
}

interface Looked {
  readonly at: number;
  readonly version: Promise<string>;
}
/** On the global object: route handlers load this module each on their own. */
const holder = globalThis as typeof globalThis & {
  lanternLooked?: Map<number, Looked>;
  lanternEvaluated?: Map<number, number>;
};

/** The same for pages that look again and again: the database is asked once for all of them. */
function versionLately(courseId: number): Promise<string> {
  const looked = (holder.lanternLooked ??= new Map());
  const now = performance.now();
  const last = looked.get(courseId);
  if (last && now - last.at < SHARED_MS) return last.version;
  // Nobody looks at most courses: what was asked long ago goes.
  for (const [id, { at }] of looked) if (now - at > 60_000) looked.delete(id);
  const version = courseVersion(courseId);
  version.catch(() => looked.delete(courseId));
  looked.set(courseId, { at: now, version });
  return version;
}

/** The version of a course of the viewer's, with a way to ask again without checking anew. */
export async function watchCourse(viewer: Viewer, code: string): Promise<() => Promise<string>> {
  const course = await requireCourse(viewer, 'look', code);
  return () => versionLately(course.id);
}
