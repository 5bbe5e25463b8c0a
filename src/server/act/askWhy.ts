import { and, eq } from 'drizzle-orm';
import { itemQuestions } from '@/data/schema';
import type { Viewer } from '../access/viewer';
import { nowDate } from '../base/clock';
import { notFound } from '../base/errors';
import { ownQuiz } from '../look/ownLearning';

/** Tells those who teach that a student does not see why an answer is right, or takes that back. */
export async function askWhy(viewer: Viewer, activityId: number, item: string, on: boolean): Promise<void> {
  const { db, enrolmentId, answers } = await ownQuiz(viewer, activityId);
  if (!answers.some((a) => a.item === item)) throw notFound('answer of yours to that item');
  if (on) {
    await db.orm
      .insert(itemQuestions)
      .values({ enrolmentId, activityId, item, at: nowDate() })
      .onConflictDoUpdate({
        target: [itemQuestions.enrolmentId, itemQuestions.activityId, itemQuestions.item],
        set: { at: nowDate(), handledAt: null },
      });
    return;
  }
  await db.orm
    .delete(itemQuestions)
    .where(
      and(
        eq(itemQuestions.enrolmentId, enrolmentId),
        eq(itemQuestions.activityId, activityId),
        eq(itemQuestions.item, item),
      ),
    );
}
