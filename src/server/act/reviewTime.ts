import { and, eq } from 'drizzle-orm';
import { nextReview, type ReviewTime } from '@/core/acts/review';
import type { Instant } from '@/core/units';
import { reviewTimes } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { requireCourse, type Viewer } from '../access/viewer';
import { queueReview } from '../remind/queueReview';

/** Sets the viewer's weekly time for a course, at which they are reminded; null for none. Returns the next. */
export async function setReviewTime(
  viewer: Viewer,
  code: string,
  time: ReviewTime | null,
): Promise<Instant | null> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const own = { userId: viewer.userId, courseId: course.id };
  if (!time) {
    await db.orm
      .delete(reviewTimes)
      .where(and(eq(reviewTimes.userId, own.userId), eq(reviewTimes.courseId, own.courseId)));
    return null;
  }
  const { weekday, minute } = time;
  const at = nextReview(time, now(), course.zone);
  await db.transaction(async (tx) => {
    await tx.orm
      .insert(reviewTimes)
      .values({ ...own, weekday, minute })
      .onConflictDoUpdate({ target: [reviewTimes.userId, reviewTimes.courseId], set: { weekday, minute } });
    await queueReview(tx, own, at);
  });
  return at;
}
