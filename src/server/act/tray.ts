import { trayOf } from '@/data/queries/tray';
import { and, eq, inArray } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { enrolments, trayItems } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { invalid } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';

/** The students a viewer has selected in a course of theirs, with the reason. */
export const tray = async (viewer: Viewer, course: Pick<CourseRow, 'id'>) =>
  trayOf(await database(), viewer.userId, course.id);

/** Adds students of the course to the tray; who is in it already keeps the first reason. */
export async function addToTray(
  viewer: Viewer,
  code: string,
  ids: readonly number[],
  reason: string,
): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  if (ids.length === 0) return;
  const { orm } = await database();
  const found = await orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, course.id), inArray(enrolments.id, [...ids])));
  if (found.length !== new Set(ids).size) throw invalid('Somebody in the selection is not in this course.');
  await orm
    .insert(trayItems)
    .values(
      found.map(({ id }) => ({
        userId: viewer.userId,
        courseId: course.id,
        enrolmentId: id,
        reason,
        at: nowDate(),
      })),
    )
    .onConflictDoNothing();
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
