import { and, eq } from 'drizzle-orm';
import type * as yup from 'yup';
import { viewSettings } from '@/data/schema';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import type { Viewer } from './viewer';

/** How the viewer left a view of a course; null if never, or if what is stored no longer fits. */
export async function viewSetting<T>(
  viewer: Viewer,
  course: CourseRow,
  view: string,
  schema: yup.Schema<T>,
): Promise<T | null> {
  const { orm } = await database();
  const [row] = await orm
    .select({ value: viewSettings.value })
    .from(viewSettings)
    .where(
      and(
        eq(viewSettings.userId, viewer.userId),
        eq(viewSettings.courseId, course.id),
        eq(viewSettings.view, view),
      ),
    );
  if (!row || !schema.isValidSync(row.value, { strict: true })) return null;
  return schema.cast(row.value);
}

export async function saveViewSetting(
  viewer: Viewer,
  course: CourseRow,
  view: string,
  value: unknown,
): Promise<void> {
  const { orm } = await database();
  await orm
    .insert(viewSettings)
    .values({ userId: viewer.userId, courseId: course.id, view, value })
    .onConflictDoUpdate({
      target: [viewSettings.userId, viewSettings.courseId, viewSettings.view],
      set: { value },
    });
}
