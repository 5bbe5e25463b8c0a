import type { Access } from '@/data/database';
import { now } from '../../base/clock';
import { database } from '../../base/database';
import { deriveActivity } from '../../derive/activity';
import { loadCourseModel, type CourseModel, type CourseRow } from '@/data/queries/courseModel';
import { setupChanged } from '../../derive/setupChanged';
import { ensureEvaluated } from '../../derive/evaluation';
import { requireCourse, type Viewer } from '../../access/viewer';
import { lockCourse } from '@/data/write/underLock';

export interface Edit {
  readonly tx: Access;
  readonly course: CourseRow;
  readonly model: CourseModel;
  readonly at: number;
}

/** What an edit asks to be derived again: all days of everybody, of some, or nothing. */
export type Recut = 'everybody' | readonly number[] | null;

/** Changes one course; derived rows that rest on what was changed are cut anew. */
type EditWork<T> = (edit: Edit) => Promise<{ readonly value: T; readonly recut?: Recut }>;

/**
 * Changes how some courses are set up, for whoever teaches all of them, in one transaction: all are changed, or none.
 * Flags are evaluated at once, so that the next view is right. Returns what came of each, in the order of the codes.
 */
export async function editCourses<T>(
  viewer: Viewer,
  codes: readonly string[],
  edit: EditWork<T>,
): Promise<T[]> {
  const courses: CourseRow[] = [];
  for (const code of new Set(codes)) courses.push(await requireCourse(viewer, 'set up', code));
  const db = await database();
  const values = await db.transaction(async (tx) => {
    // In one order everywhere: two who change the same courses must not wait for each other.
    for (const { id } of courses.toSorted((a, b) => a.id - b.id)) await lockCourse(tx, id);
    const done: T[] = [];
    for (const { id } of courses) done.push(await editOne(tx, id, edit));
    return done;
  });
  for (const course of courses) await ensureEvaluated({ ...course, evaluatedAt: null });
  return values;
}

/** Changes how one course is set up, as `editCourses` does. */
export async function editCourse<T>(viewer: Viewer, code: string, edit: EditWork<T>): Promise<T> {
  const [value] = await editCourses(viewer, [code], edit);
  return value!;
}

async function editOne<T>(tx: Access, courseId: number, edit: EditWork<T>): Promise<T> {
  const model = await loadCourseModel(tx, courseId);
  const { value, recut = null } = await edit({ tx, course: model.row, model, at: now() });
  await setupChanged(tx, courseId);
  if (recut) {
    const affected = recut === 'everybody' ? null : new Map(recut.map((id) => [id, -Infinity]));
    await deriveActivity(tx, await loadCourseModel(tx, courseId), affected);
  }
  return value;
}
