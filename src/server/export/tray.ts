import { writeCsv } from '@/core/formats/csv';
import { activityTitles, openReasons } from '../look/flags';
import { roster } from '../snapshot/roster';
import { tray } from '../act/tray';
import { requireTaught, type Viewer } from '../access/viewer';

/** The students in the tray as CSV: who, why they were picked, and every reason that is open. */
export async function trayCsv(viewer: Viewer, code: string): Promise<string> {
  const course = await requireTaught(viewer, code);
  const items = await tray(viewer, course);
  const ids = items.map((i) => i.enrolmentId);
  const people = new Map((await roster(course.id, ids)).map((p) => [p.enrolmentId, p]));
  const reasons =
    ids.length > 0
      ? await openReasons(course.id, await activityTitles(course.id), ids)
      : new Map<number, never[]>();
  return writeCsv(
    ['family_name', 'given_name', 'section', 'email', 'picked_because', 'reasons'],
    items.flatMap(({ enrolmentId, reason }) => {
      const person = people.get(enrolmentId);
      if (!person) return [];
      const open = (reasons.get(enrolmentId) ?? []).map((r) => `${r.level}: ${r.head} ${r.rest}`);
      return [[person.family, person.given, person.section, person.email, reason, open.join(' | ')]];
    }),
  );
}
