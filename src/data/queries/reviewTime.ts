import { and, eq } from 'drizzle-orm';
import type { ReviewTime } from '@/core/acts/review';
import type { Access } from '../database';
import { reviewTimes } from '../schema';

/** Somebody's weekly time for a course; null if they have none. */
export async function reviewTime(
  { orm }: Access,
  userId: string,
  courseId: number,
): Promise<ReviewTime | null> {
  const [row] = await orm
    .select({ weekday: reviewTimes.weekday, minute: reviewTimes.minute })
    .from(reviewTimes)
    .where(and(eq(reviewTimes.userId, userId), eq(reviewTimes.courseId, courseId)));
  return row ?? null;
}
