import type { Access } from '@/data/database';
import { now } from '../clock';
import { database } from '../database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel, lockCourse, type CourseModel, type CourseRow } from '../derive/courseModel';
import { setupChanged } from '../derive/setupChanged';
import { ensureEvaluated } from '../evaluation';
import { requireTaught, type Viewer } from '../viewer';

export interface Edit {
  readonly tx: Access;
  readonly course: CourseRow;
  readonly model: CourseModel;
  readonly at: number;
}

/** What an edit asks to be derived again: all days of everybody, of some, or nothing. */
export type Recut = 'everybody' | readonly number[] | null;

/**
 * Changes how a course is set up, for whoever teaches it, in one transaction; derived rows that rest on what was
 * changed are cut anew, and flags are evaluated at once, so that the next view is right.
 */
export async function editCourse<T>(
  viewer: Viewer,
  code: string,
  edit: (edit: Edit) => Promise<{ readonly value: T; readonly recut?: Recut }>,
): Promise<T> {
  const course = await requireTaught(viewer, code);
  const db = await database();
  const value = await db.transaction(async (tx) => {
    await lockCourse(tx, course.id);
    const model = await loadCourseModel(tx, course.id);
    const done = await edit({ tx, course: model.row, model, at: now() });
    await setupChanged(tx, course.id);
    const { recut = null } = done;
    if (recut) {
      const affected = recut === 'everybody' ? null : new Map(recut.map((id) => [id, -Infinity]));
      await deriveActivity(tx, await loadCourseModel(tx, course.id), affected);
    }
    return done.value;
  });
  await ensureEvaluated({ ...course, evaluatedAt: null });
  return value;
}
