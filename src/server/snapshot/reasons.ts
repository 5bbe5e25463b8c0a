import { compareFlags } from '@/core/flags/priority';
import { reasonOf } from '@/core/flags/reasons';
import type { ReasonView } from '@/core/views/reason';
import type { flags } from '@/data/schema';
import type { CourseModel } from '@/data/queries/courseModel';
import type { Snapshot } from './snapshot';

/** The title of an activity of a course by its id as text. */
export function titlesOf({ activities }: Pick<CourseModel, 'activities'>): (id: string) => string {
  const titles = new Map(activities.map((a) => [String(a.id), a.title]));
  return (id) => titles.get(id) ?? 'an assignment no longer in the course';
}

export const toReason = (flag: typeof flags.$inferSelect, titleOf: (id: string) => string): ReasonView => ({
  id: flag.id,
  kind: flag.kind,
  level: flag.level,
  ...reasonOf(flag.detail, titleOf),
  openedOn: flag.openedOn,
  insideSince: flag.insideSince,
  closedOn: flag.closedOn,
});

/** The open flags of a course, or of some of its students, by student, in the order in which reasons are read. */
export async function openReasons(
  snapshot: Snapshot,
  only?: readonly number[],
): Promise<Map<number, ReasonView[]>> {
  const titleOf = titlesOf(await snapshot.model());
  const flags = await snapshot.flags();
  const found = new Map<number, ReasonView[]>();
  for (const id of only ?? flags.keys()) {
    const open = (flags.get(id) ?? []).filter((f) => f.closedOn == null);
    if (open.length > 0) found.set(id, open.map((f) => toReason(f, titleOf)).sort(compareFlags));
  }
  return found;
}
