import { sql } from 'drizzle-orm';
import type { AnsweredItem } from '@/core/formats/xapi/answered';
import type { Access } from '@/data/database';
import { answerSteps, items } from '@/data/schema';
import { insertMany, upsertMany } from './bulk';

/** An answer that a statement tells of, with the event that it hangs on. */
export interface Answer {
  readonly courseId: number;
  readonly eventId: string;
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly answered: AnsweredItem;
}

/**
 * Keeps answers that came as statements, each with its event, and makes the items that nobody knew: without a key where the
 * statement does not tell of one. What is known of an item stays, whichever statement comes first.
 */
export async function takeAnswers(access: Access, answers: readonly Answer[]): Promise<void> {
  if (answers.length === 0) return;
  await upsertMany(
    access,
    answerSteps,
    [answerSteps.courseId, answerSteps.eventId],
    answers.map(({ courseId, eventId, enrolmentId, activityId, answered: a }) => ({
      courseId,
      eventId,
      enrolmentId,
      activityId,
      item: a.item,
      answer: a.answer,
      score: a.score,
      seconds: a.seconds,
      hints: a.hints,
    })),
  );
  const told = new Map<string, typeof items.$inferInsert>();
  for (const { activityId, answered } of answers) {
    const name = `${activityId} ${answered.item}`;
    const { stem, options, keys } = answered.told;
    const known = told.get(name);
    const key = keys.length > 0 ? [...keys] : (known?.keys ?? null);
    told.set(name, {
      activityId,
      item: answered.item,
      stem: stem ?? known?.stem ?? null,
      options: options.length > 0 ? [...options] : (known?.options ?? []),
      keys: key,
      keysCame: key,
    });
  }
  await insertMany(access, items, [...told.values()], {
    conflict: sql`on conflict (activity_id, item) do update set
      stem = coalesce(items.stem, excluded.stem),
      options = case when items.options = '[]'::jsonb then excluded.options else items.options end,
      keys = case when items.keys is null and items.rev = 0 then excluded.keys else items.keys end,
      keys_came = coalesce(items.keys_came, excluded.keys_came)`,
  });
}
