import type { FinderView } from '@/core/views/finder';
import { requireCourse, type Viewer } from '../access/viewer';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';

/** The students and activities of a course, to be found by name. */
export async function finderView(viewer: Viewer, code: string): Promise<FinderView> {
  const course = await requireCourse(viewer, 'look', code);
  const { activities } = await (await snapshotOf(course)).model();
  return {
    students: (await roster(course.id)).map(({ enrolmentId: id, name, section }) => ({ id, name, section })),
    activities: activities.map(({ id, title, kind }) => ({ id, title, kind })),
  };
}
