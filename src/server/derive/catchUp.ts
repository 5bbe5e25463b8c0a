import { and, eq, exists, notExists } from 'drizzle-orm';
import type { Database } from '@/data/database';
import { courses, enrolments, events, studentDwells } from '@/data/schema';
import { deriveActivity } from './activity';
import { loadCourseModel, lockCourse } from './courseModel';

/**
 * Derives what a newer version of the program keeps and an older one did not, of every course with events that has
 * none of it. Called once at the start.
 */
export async function deriveMissing(db: Database): Promise<void> {
  const derived = db.orm
    .select({ id: studentDwells.enrolmentId })
    .from(studentDwells)
    .innerJoin(enrolments, eq(enrolments.id, studentDwells.enrolmentId))
    .where(eq(enrolments.courseId, courses.id));
  const ofCourse = db.orm.select({ id: events.eventId }).from(events).where(eq(events.courseId, courses.id));
  const behind = await db.orm
    .select({ id: courses.id })
    .from(courses)
    .where(and(exists(ofCourse), notExists(derived)));
  for (const { id } of behind) {
    await db.transaction(async (tx) => {
      await lockCourse(tx, id);
      await deriveActivity(tx, await loadCourseModel(tx, id), null);
    });
  }
}
