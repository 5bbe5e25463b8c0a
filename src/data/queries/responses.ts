import { and, asc, eq } from 'drizzle-orm';
import type { RecordedAnswer } from '@/core/items/sittings';
import type { Access } from '../database';
import { answersNow, items } from '../schema';

/** Every answer to the items of an activity, whoever gave it, with what it counts by the keys as they stand. */
export async function answersTo(
  { orm }: Access,
  activityId: number,
  student?: number,
): Promise<RecordedAnswer[]> {
  const rows = await orm
    .select({
      student: answersNow.enrolmentId,
      item: answersNow.item,
      attempt: answersNow.attempt,
      answer: answersNow.answer,
      final: answersNow.final,
      finalScore: answersNow.finalScore,
      came: answersNow.came,
      score: answersNow.score,
      at: answersNow.at,
      seconds: answersNow.seconds,
      hints: answersNow.hints,
    })
    .from(answersNow)
    .where(
      and(
        eq(answersNow.activityId, activityId),
        student == null ? undefined : eq(answersNow.enrolmentId, student),
      ),
    );
  return rows.map((r) => ({ ...r, at: r.at?.getTime() ?? null }));
}

export type ItemRow = typeof items.$inferSelect;

/** The items of an activity that are known by more than their answers. */
export const itemsOf = ({ orm }: Access, activityId: number): Promise<ItemRow[]> =>
  orm.select().from(items).where(eq(items.activityId, activityId)).orderBy(asc(items.item));
