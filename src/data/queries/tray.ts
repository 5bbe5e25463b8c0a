import { and, asc, eq } from 'drizzle-orm';
import type { TrayItem } from '@/core/views/tray';
import type { Access } from '../database';
import { trayItems } from '../schema';

/** The students somebody has selected in a course, with the reason, in the order of selecting. */
export async function trayOf({ orm }: Access, userId: string, courseId: number): Promise<TrayItem[]> {
  return orm
    .select({
      enrolmentId: trayItems.enrolmentId,
      reason: trayItems.reason,
      about: trayItems.about,
      activityId: trayItems.activityId,
      item: trayItems.item,
      source: trayItems.source,
    })
    .from(trayItems)
    .where(and(eq(trayItems.userId, userId), eq(trayItems.courseId, courseId)))
    .orderBy(asc(trayItems.at), asc(trayItems.enrolmentId));
}
