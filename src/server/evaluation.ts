import { eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import { HOUR_MS } from '@/core/units';
import { courses } from '@/data/schema';
import { now } from './clock';
import { database } from './database';
import { loadCourseModel, lockCourse, type CourseRow } from './derive/courseModel';
import { evaluateCourse } from './derive/evaluate';

const running = new Map<number, Promise<void>>();

/**
 * Evaluates a course if a local day has begun, or an hour gone by (something may have fallen due), since the last
 * time. Requests that come meanwhile wait for the one evaluation. Returns the course as it then stands.
 */
export async function ensureEvaluated(course: CourseRow): Promise<CourseRow> {
  const at = now();
  const fresh =
    course.evaluatedAt != null &&
    course.evaluatedOn === localDate(at, course.zone) &&
    Math.abs(at - course.evaluatedAt.getTime()) < HOUR_MS;
  if (fresh) return course;
  await evaluateNow(course.id);
  const { orm } = await database();
  const [row] = await orm.select().from(courses).where(eq(courses.id, course.id));
  return row ?? course;
}

/** Evaluates a course as of now, in one transaction. */
export async function evaluateNow(courseId: number): Promise<void> {
  const going = running.get(courseId);
  if (going) return going;
  const work = (async () => {
    const db = await database();
    await db.transaction(async (tx) => {
      await lockCourse(tx, courseId);
      await evaluateCourse(tx, await loadCourseModel(tx, courseId), now());
    });
  })().finally(() => running.delete(courseId));
  running.set(courseId, work);
  return work;
}
