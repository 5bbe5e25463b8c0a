import { randomUUID } from 'node:crypto';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import { pointsOfAttempts, type AttemptPolicy } from '@/core/gradebook/attemptPolicy';
import type { ScoreState } from '@/core/gradebook/changes';
import type { Access } from '../database';
import { idsIn } from '../queries/idsIn';
import { activities, attempts, scoreChanges, scores } from '../schema';
import { insertMany } from './bulk';

type Cell = Pick<typeof scores.$inferSelect, 'enrolmentId' | 'activityId'>;

/** What stands in a row of the gradebook. */
const stateOfRow = (row: typeof scores.$inferSelect): ScoreState => ({
  points: row.points,
  excused: row.excused,
  submitted: row.submittedAt?.getTime() ?? null,
  graded: row.gradedAt?.getTime() ?? null,
  returned: row.returnedAt?.getTime() ?? null,
  ownDue: row.ownDueAt?.getTime() ?? null,
  extraAttempts: row.extraAttempts,
});

/**
 * Lets the grades of a course be what its policy makes of several attempts, in a transaction that holds the course. Points
 * that somebody gave by hand stay, and those by another key. Each change stands in the history of its cell. Returns the
 * students whose grades changed.
 */
export async function keepAttemptPolicy(
  access: Access,
  courseId: number,
  policy: AttemptPolicy | null,
  at: Date,
): Promise<number[]> {
  return policy ? follow(access, courseId, policy, at) : restore(access, courseId, at);
}

async function follow(access: Access, courseId: number, policy: AttemptPolicy, at: Date): Promise<number[]> {
  const { orm } = access;
  const byHand = sql`exists (select 1 from ${scoreChanges} where ${scoreChanges.enrolmentId} = ${scores.enrolmentId}
    and ${scoreChanges.activityId} = ${scores.activityId} and ${scoreChanges.undoneAt} is null
    and ${scoreChanges.action} in ('grade', 'paste', 'key'))`;
  const several = sql`(select count(${attempts.points}) from ${attempts} where ${attempts.enrolmentId} = ${scores.enrolmentId}
    and ${attempts.activityId} = ${scores.activityId}) > 1`;
  const rows = await orm
    .select({ row: scores })
    .from(scores)
    .innerJoin(activities, eq(activities.id, scores.activityId))
    .where(
      and(
        eq(activities.courseId, courseId),
        sql`${scores.points} is not null and not ${scores.excused} and ${several} and not ${byHand}`,
      ),
    );
  if (rows.length === 0) return [];
  const tries = await orm
    .select()
    .from(attempts)
    .where(
      and(
        idsIn(attempts.enrolmentId, [...new Set(rows.map(({ row }) => row.enrolmentId))]),
        idsIn(attempts.activityId, [...new Set(rows.map(({ row }) => row.activityId))]),
      ),
    )
    .orderBy(asc(attempts.number));
  const of = groupBy(tries, (t) => `${t.enrolmentId} ${t.activityId}`);
  const changed = rows.flatMap(({ row }) => {
    const list = of.get(`${row.enrolmentId} ${row.activityId}`) ?? [];
    const points = pointsOfAttempts(
      list.map((t) => t.points),
      policy,
    );
    return points == null || points === row.points ? [] : [{ row, points }];
  });
  await setPoints(
    access,
    changed.map(({ row, points }) => ({ ...row, points })),
  );
  const batch = randomUUID();
  await insertMany(
    access,
    scoreChanges,
    changed.map(({ row, points }) => ({
      courseId,
      batch,
      enrolmentId: row.enrolmentId,
      activityId: row.activityId,
      userId: null,
      at,
      action: 'attempts' as const,
      before: stateOfRow(row),
      after: { ...stateOfRow(row), points },
    })),
  );
  return [...new Set(changed.map(({ row }) => row.enrolmentId))];
}

/** Gives back what stood before any policy, where nobody has changed it since. */
async function restore(access: Access, courseId: number, at: Date): Promise<number[]> {
  const { orm } = access;
  const mine = await orm
    .select({ change: scoreChanges, points: scores.points })
    .from(scoreChanges)
    .innerJoin(
      scores,
      and(eq(scores.enrolmentId, scoreChanges.enrolmentId), eq(scores.activityId, scoreChanges.activityId)),
    )
    .where(
      and(
        eq(scoreChanges.courseId, courseId),
        eq(scoreChanges.action, 'attempts'),
        isNull(scoreChanges.undoneAt),
      ),
    )
    .orderBy(asc(scoreChanges.id));
  if (mine.length === 0) return [];
  const cells = [...groupBy(mine, ({ change }) => `${change.enrolmentId} ${change.activityId}`).values()];
  const still = cells.filter((list) => list.at(-1)!.points === list.at(-1)!.change.after.points);
  await setPoints(
    access,
    still.map((list) => ({ ...list[0]!.change, points: list[0]!.change.before.points! })),
  );
  await orm
    .update(scoreChanges)
    .set({ undoneAt: at })
    .where(
      idsIn(
        scoreChanges.id,
        mine.map(({ change }) => change.id),
      ),
    );
  return [...new Set(still.map((list) => list[0]!.change.enrolmentId))];
}

async function setPoints(
  { orm }: Access,
  cells: readonly (Cell & { readonly points: number })[],
): Promise<void> {
  if (cells.length === 0) return;
  await orm.execute(sql`update ${scores} set points = to_.points
    from unnest(${sql.param(cells.map((c) => c.enrolmentId))}::int[], ${sql.param(cells.map((c) => c.activityId))}::int[],
      ${sql.param(cells.map((c) => c.points))}::float8[]) as to_(e, a, points)
    where ${scores.enrolmentId} = to_.e and ${scores.activityId} = to_.a`);
}
