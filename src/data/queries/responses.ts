import { and, asc, eq, sql } from 'drizzle-orm';
import type { GivenAnswer, RecordedAnswer } from '@/core/items/sittings';
import type { Seconds } from '@/core/units';
import type { Access } from '../database';
import { answersNow, items } from '../schema';

const ofActivity = (activityId: number, student?: number) =>
  and(
    eq(answersNow.activityId, activityId),
    student == null ? undefined : eq(answersNow.enrolmentId, student),
  );

/** An answer with how long it took. */
export interface TimedAnswer extends GivenAnswer {
  readonly seconds: Seconds | null;
}

/** Every answer to the items of an activity, whoever gave it, with what it counts by the keys as they stand. */
export const answersTo = ({ orm }: Access, activityId: number): Promise<TimedAnswer[]> =>
  orm
    .select({
      student: answersNow.enrolmentId,
      item: answersNow.item,
      attempt: answersNow.attempt,
      answer: answersNow.answer,
      score: answersNow.score,
      seconds: answersNow.seconds,
    })
    .from(answersNow)
    .where(ofActivity(activityId));

/** The same with all that is on record of each, of everybody or one student. */
export async function recordedAnswers(
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
    })
    .from(answersNow)
    .where(ofActivity(activityId, student));
  return rows.map((r) => ({ ...r, at: r.at?.getTime() ?? null }));
}

/** Who answered something in which of some activities, once each. */
export async function whoAnswered(
  { orm }: Access,
  activityIds: readonly number[],
): Promise<{ work: number; student: number }[]> {
  if (activityIds.length === 0) return [];
  const ids = sql.param([...activityIds]);
  const { rows } = (await orm.execute(sql`
    select activity_id, enrolment_id from responses where activity_id = any(${ids}::int[]) group by 1, 2
    union
    select s.activity_id, s.enrolment_id from answer_steps s
    join events_now e on e.course_id = s.course_id and e.event_id = s.event_id
    where s.activity_id = any(${ids}::int[])`)) as unknown as {
    rows: { activity_id: number; enrolment_id: number }[];
  };
  return rows.map((r) => ({ work: r.activity_id, student: r.enrolment_id }));
}

export type ItemRow = typeof items.$inferSelect;

/** The items of an activity that are known by more than their answers. */
export const itemsOf = ({ orm }: Access, activityId: number): Promise<ItemRow[]> =>
  orm.select().from(items).where(eq(items.activityId, activityId)).orderBy(asc(items.item));
