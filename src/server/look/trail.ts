import { and, asc, eq } from 'drizzle-orm';
import { isTooQuick } from '@/core/items/effort';
import { sittingNumbers } from '@/core/items/trail';
import { scoreOf } from '@/core/items/treatment';
import type { TrailStep, TrailView } from '@/core/views/trail';
import type { Access } from '@/data/database';
import { readItemNorms } from '@/data/queries/learning';
import { itemsOf } from '@/data/queries/responses';
import { answerSteps, responses, seenEvents } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { fullName, roster } from '../snapshot/roster';

/** What a student answered to an item, step by step, with when, how long it took and what it counts. */
export async function trailOf(
  viewer: Viewer,
  code: string,
  activityId: number,
  item: string,
  enrolmentId: number,
): Promise<TrailView> {
  const course = await requireCourse(viewer, 'look', code);
  const db = await database();
  const [person] = await roster(course.id, [enrolmentId]);
  const activity = await db.orm.query.activities.findFirst({
    where: (a, { and: all, eq: is }) => all(is(a.id, activityId), is(a.courseId, course.id)),
  });
  if (!person || !activity) throw notFound('student or assignment in this course');
  const row = (await itemsOf(db, activityId)).find((i) => i.item === item);
  return {
    item,
    stem: row?.stem ?? null,
    name: fullName(person),
    steps: await trailSteps(db, activityId, item, enrolmentId, course.sessionGapMinutes),
  };
}

/** The steps themselves; who asks has been checked. */
async function trailSteps(
  access: Access,
  activityId: number,
  item: string,
  enrolmentId: number,
  gapMinutes: number,
): Promise<TrailStep[]> {
  const { orm } = access;
  const key = (await itemsOf(access, activityId)).find((i) => i.item === item);
  const norm = (await readItemNorms(access, activityId)).get(item);
  const told = await orm
    .select()
    .from(responses)
    .where(
      and(
        eq(responses.enrolmentId, enrolmentId),
        eq(responses.activityId, activityId),
        eq(responses.item, item),
      ),
    )
    .orderBy(asc(responses.attempt));
  const stated = await orm
    .select({ step: answerSteps, at: seenEvents.at })
    .from(answerSteps)
    .innerJoin(
      seenEvents,
      and(eq(seenEvents.courseId, answerSteps.courseId), eq(seenEvents.eventId, answerSteps.eventId)),
    )
    .where(and(eq(answerSteps.enrolmentId, enrolmentId), eq(answerSteps.activityId, activityId)))
    .orderBy(asc(seenEvents.at), asc(answerSteps.eventId));
  const sittings = sittingNumbers(
    stated.map((s) => s.at.getTime()),
    gapMinutes,
  );
  const steps = stated.map(({ step, at }, i) => ({ ...step, at, attempt: sittings[i]! }));
  return [...told, ...steps.filter((s) => s.item === item)].map((r) => ({
    attempt: r.attempt,
    answer: r.answer,
    score: scoreOf(key, r.answer, r.score),
    at: r.at?.getTime() ?? null,
    seconds: r.seconds,
    hints: r.hints ?? 0,
    tooQuick: isTooQuick(r.seconds, norm),
  }));
}
