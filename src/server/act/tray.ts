import { trayOf } from '@/data/queries/tray';
import { and, eq, sql } from 'drizzle-orm';
import type { Picked } from '@/core/acts/pick';
import type { TrayItem } from '@/core/views/tray';
import { insertMany } from '@/data/write/bulk';
import type { Access } from '@/data/database';
import { activities, enrolments, trayItems } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { invalid } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';

/** The students a viewer has selected in a course of theirs, with the reason. */
export const tray = async (viewer: Viewer, course: Pick<CourseRow, 'id'>) =>
  trayOf(await database(), viewer.userId, course.id);

/** Students to be selected, and why. */
export interface PickedStudents extends Picked {
  readonly students: readonly number[];
}

/**
 * Adds students of the course to the tray; who is in it already keeps the first reason.
 *
 * @param options.source the view they were selected in
 * @param options.anew whether who was in it goes first
 * @returns who was in it before, to undo it
 */
export async function addToTray(
  viewer: Viewer,
  code: string,
  picks: readonly PickedStudents[],
  { source = '', anew = false }: { readonly source?: string; readonly anew?: boolean } = {},
): Promise<TrayItem[]> {
  const course = await requireCourse(viewer, 'act', code);
  const ids = [...new Set(picks.flatMap((p) => p.students))];
  if (ids.length === 0) return [];
  const db = await database();
  return db.transaction(async (tx) => {
    const found = await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(and(eq(enrolments.courseId, course.id), idsIn(enrolments.id, ids)));
    if (found.length !== ids.length) throw invalid('Somebody in the selection is not in this course.');
    const wanted = [...new Set(picks.flatMap((p) => p.activityId ?? []))];
    const known = await tx.orm
      .select({ id: activities.id })
      .from(activities)
      .where(and(eq(activities.courseId, course.id), idsIn(activities.id, wanted)));
    if (known.length !== wanted.length) throw invalid('There is no such assignment in this course.');
    const before = await trayOf(tx, viewer.userId, course.id);
    if (anew) await removeFromTray(tx, viewer, course, null);
    const rows = new Map(
      picks.flatMap(({ students, reason, about, activityId, item }) =>
        students.map((enrolmentId) => [
          enrolmentId,
          {
            userId: viewer.userId,
            courseId: course.id,
            enrolmentId,
            reason,
            about,
            activityId,
            item,
            source,
            at: nowDate(),
          },
        ]),
      ),
    );
    await insertMany(tx, trayItems, [...rows.values()], { conflict: sql`on conflict do nothing` });
    return before;
  });
}

/** Takes students out of the tray, or everybody if no ids are given. */
export async function clearTray(viewer: Viewer, code: string, ids: readonly number[] | null): Promise<void> {
  await removeFromTray(await database(), viewer, await requireCourse(viewer, 'act', code), ids);
}

/** The same for a course of the viewer's, in whatever transaction. */
export async function removeFromTray(
  { orm }: Access,
  viewer: Viewer,
  course: Pick<CourseRow, 'id'>,
  ids: readonly number[] | null,
): Promise<void> {
  if (ids?.length === 0) return;
  await orm
    .delete(trayItems)
    .where(
      and(
        eq(trayItems.userId, viewer.userId),
        eq(trayItems.courseId, course.id),
        ids ? idsIn(trayItems.enrolmentId, ids) : undefined,
      ),
    );
}

/** Selects students again, each for what they were selected for, after what was sent to them was called back. */
export async function selectAgain(
  tx: Access,
  viewer: Viewer,
  courseId: number,
  picks: readonly ({ readonly enrolmentId: number } & Picked)[],
): Promise<void> {
  const at = nowDate();
  await insertMany(
    tx,
    trayItems,
    picks.map((p) => ({ ...p, userId: viewer.userId, courseId, source: 'compose', at })),
    { conflict: sql`on conflict do nothing` },
  );
}
