import { writeCsv } from '@/core/formats/csv';
import { roster } from '../snapshot/roster';
import { requireCourse, type Viewer } from '../access/viewer';
import { trayOf } from '@/data/queries/tray';
import { database } from '../base/database';
import { openReasons } from '../snapshot/reasons';
import { snapshotOf } from '../snapshot/snapshot';

/** The students in the tray as CSV: who, why they were selected, and every reason that is open. */
export async function trayCsv(viewer: Viewer, code: string): Promise<string> {
  const course = await requireCourse(viewer, 'export', code);
  const items = await trayOf(await database(), viewer.userId, course.id);
  const ids = items.map((i) => i.enrolmentId);
  const people = new Map((await roster(course.id, ids)).map((p) => [p.enrolmentId, p]));
  const reasons = await openReasons(await snapshotOf(course), ids);
  return writeCsv(
    ['student_id', 'family_name', 'given_name', 'section', 'email', 'selected_because', 'reasons'],
    items.flatMap(({ enrolmentId, reason }) => {
      const person = people.get(enrolmentId);
      if (!person) return [];
      const open = (reasons.get(enrolmentId) ?? []).map((r) => `${r.level}: ${r.head} ${r.rest}`);
      return [
        [
          person.studentId,
          person.family,
          person.given,
          person.section,
          person.email,
          reason,
          open.join(' | '),
        ],
      ];
    }),
  );
}
