import { and, eq, exists, isNotNull, notExists } from 'drizzle-orm';
import type { Database } from '@/data/database';
import { activityTotals, courses, enrolments, events } from '@/data/schema';
import { deriveActivity } from './activity';
import { loadCourseModel, lockCourse } from './courseModel';

/**
 * Derives what a newer version of the program keeps and an older one did not, of every course with events that has
 * none of it. Called once at the start.
 */
export async function deriveMissing(db: Database): Promise<void> {
  const totals = db.orm
    .select({ id: activityTotals.enrolmentId })
    .from(activityTotals)
    .innerJoin(enrolments, eq(enrolments.id, activityTotals.enrolmentId))
    .where(eq(enrolments.courseId, courses.id));
  const onActivities = db.orm
    .select({ id: events.eventId })
    .from(events)
    .where(and(eq(events.courseId, courses.id), isNotNull(events.activityId)));
  const behind = await db.orm
    .select({ id: courses.id })
    .from(courses)
    .where(and(exists(onActivities), notExists(totals)));
  for (const { id } of behind) {
    await db.transaction(async (tx) => {
      await lockCourse(tx, id);
      await deriveActivity(tx, await loadCourseModel(tx, id), null);
    });
  }
}
