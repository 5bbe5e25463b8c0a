import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { compareFlags } from '@/core/flags/priority';
import { reasonOf } from '@/core/flags/reasons';
import { activities, enrolments, flags } from '@/data/schema';
import { database } from '../base/database';
import type { ReasonView } from '@/core/views/reason';

type FlagRow = typeof flags.$inferSelect;

export async function activityTitles(courseId: number): Promise<(id: string) => string> {
  const { orm } = await database();
  const rows = await orm
    .select({ id: activities.id, title: activities.title })
    .from(activities)
    .where(eq(activities.courseId, courseId));
  const titles = new Map(rows.map((r) => [String(r.id), r.title]));
  return (id) => titles.get(id) ?? 'a work no longer in the course';
}

export const toReason = (flag: FlagRow, titleOf: (id: string) => string): ReasonView => ({
  kind: flag.kind,
  level: flag.level,
  ...reasonOf(flag.detail, titleOf),
  openedOn: flag.openedOn,
  insideSince: flag.insideSince,
  closedOn: flag.closedOn,
});

/** The open flags of a course by enrolment, each list in the order in which reasons are read. */
export async function openReasons(
  courseId: number,
  titleOf: (id: string) => string,
  only?: readonly number[],
): Promise<Map<number, ReasonView[]>> {
  const { orm } = await database();
  const rows = await orm
    .select({ flag: flags })
    .from(flags)
    .innerJoin(enrolments, eq(enrolments.id, flags.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, courseId),
        isNull(flags.closedOn),
        only ? inArray(flags.enrolmentId, [...only]) : undefined,
      ),
    )
    .orderBy(asc(flags.id));
  const byEnrolment = new Map<number, ReasonView[]>();
  for (const { flag } of rows) {
    const list = byEnrolment.get(flag.enrolmentId) ?? [];
    list.push(toReason(flag, titleOf));
    byEnrolment.set(flag.enrolmentId, list);
  }
  for (const list of byEnrolment.values()) list.sort(compareFlags);
  return byEnrolment;
}
