import { asc, eq } from 'drizzle-orm';
import { isClosed, isReturned, isSubmitted } from '@/core/gradebook/status';
import { lastAskedWords, outcomeRecalls } from '@/core/plans/reviews';
import type { OwnAssigned, OwnRetry, OwnReview } from '@/core/views/student';
import { accommodationOf } from '@/data/queries/accommodations';
import { attemptPoints, outcomeAnswers } from '@/data/queries/plans';
import { activities, assignedActivities } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { studyMaterial } from '../plans/facts';
import type { Snapshot } from '../snapshot/snapshot';

/** Reviews that are named, the least remembered first. */
const REVIEWS_NAMED = 5;

/** What else belongs to a student's plan: what was assigned to them by name, further attempts, and what is due for review. */
export async function ownPlan(
  snapshot: Snapshot,
  enrolmentId: number,
): Promise<{
  readonly assigned: readonly OwnAssigned[];
  readonly retries: readonly OwnRetry[];
  readonly reviews: readonly OwnReview[];
  readonly readAloud: boolean;
}> {
  const db = await database();
  const { activities: all, outcomes } = await snapshot.model();
  const own = (await snapshot.scores()).get(enrolmentId);
  const at = now();
  const rows = await db.orm
    .select({ row: assignedActivities, title: activities.title })
    .from(assignedActivities)
    .innerJoin(activities, eq(activities.id, assignedActivities.activityId))
    .where(eq(assignedActivities.enrolmentId, enrolmentId))
    .orderBy(asc(assignedActivities.dueAt), asc(assignedActivities.id));
  const opened = (await snapshot.opened()).get(enrolmentId) ?? new Set<number>();
  const titles = new Map(outcomes.map((o) => [o.id, o.title]));
  const recalls = outcomeRecalls((await outcomeAnswers(db, [enrolmentId])).get(enrolmentId) ?? [], at);
  const quizzes = all.filter((a) => a.attemptsAllowed !== 1 && a.points && a.kind === 'quiz');
  const material = await studyMaterial(snapshot);
  const points = await attemptPoints(
    db,
    quizzes.map((q) => q.id),
    [enrolmentId],
  );
  return {
    assigned: rows
      .filter(({ row }) => !isSubmitted(own?.get(String(row.activityId)), at) && !opened.has(row.activityId))
      .map(({ row, title }) => ({
        id: row.activityId,
        title,
        opens: row.opensAt != null && row.opensAt.getTime() > at ? row.opensAt.getTime() : null,
        due: row.dueAt?.getTime() ?? null,
      })),
    retries: quizzes.flatMap((quiz): OwnRetry[] => {
      const score = own?.get(String(quiz.id));
      if (!isReturned(score, at) || isClosed({ closes: quiz.closesAt?.getTime() ?? null }, score, at))
        return [];
      const known = points.get(enrolmentId)?.get(quiz.id) ?? [score!.points];
      const left =
        quiz.attemptsAllowed == null
          ? null
          : quiz.attemptsAllowed + (score?.extraAttempts ?? 0) - known.length;
      const best = Math.max(...known.map((p) => p ?? 0));
      if ((left != null && left <= 0) || best >= quiz.points!) return [];
      const goOver = material.goOver(enrolmentId, quiz.id);
      if (goOver.length === 0) return [];
      const percent = (p: number | null) => (p == null ? null : (100 * p) / quiz.points!);
      return [
        {
          id: quiz.id,
          title: quiz.title,
          first: percent(known[0] ?? null),
          best: percent(best)!,
          made: known.length,
          left,
          goOver: goOver.map(({ id, title, minutes }) => ({ id, title, minutes })),
        },
      ];
    }),
    reviews: recalls
      .filter((r) => r.due && titles.has(r.outcome))
      .slice(0, REVIEWS_NAMED)
      .map((r) => ({ id: r.outcome, title: titles.get(r.outcome)!, asked: lastAskedWords(r, at) })),
    readAloud: (await accommodationOf(db, enrolmentId)).readAloud,
  };
}
