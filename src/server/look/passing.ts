import { localDate } from '@/core/calendar/zone';
import type { PassingView } from '@/core/views/passing';
import { now } from '../base/clock';
import { requireCourse, type Viewer } from '../access/viewer';
import { roster } from '../snapshot/roster';

/** Whom a word in passing can be with: the active students of a course. */
export async function passingView(viewer: Viewer, code: string): Promise<PassingView> {
  const course = await requireCourse(viewer, 'act', code);
  return {
    today: localDate(now(), course.zone),
    students: (await roster(course.id))
      .filter((p) => p.status === 'active')
      .map(({ enrolmentId, name, section }) => ({ enrolmentId, name, section })),
  };
}
