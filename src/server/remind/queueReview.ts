import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { now } from '../base/clock';
import { enqueue } from '../jobs/queue';

/** Queues the reminder of somebody's weekly time for a course. One of a time that was changed meanwhile does nothing. */
export const queueReview = (
  access: Access,
  { userId, courseId }: { readonly userId: string; readonly courseId: number },
  at: Instant,
): Promise<string> =>
  enqueue(access, {
    kind: 'review',
    payload: { userId, courseId, at },
    key: `review ${courseId} ${userId} ${at}`,
    delayMs: Math.max(0, at - now()),
  });
