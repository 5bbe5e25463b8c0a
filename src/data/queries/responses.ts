import { eq } from 'drizzle-orm';
import type { GivenAnswer } from '@/core/items/sittings';
import type { Access } from '../database';
import { responses } from '../schema';

/** Every answer to the items of an activity, whoever gave it. */
export const answersTo = ({ orm }: Access, activityId: number): Promise<GivenAnswer[]> =>
  orm
    .select({
      student: responses.enrolmentId,
      item: responses.item,
      attempt: responses.attempt,
      answer: responses.answer,
      score: responses.score,
    })
    .from(responses)
    .where(eq(responses.activityId, activityId));
