import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, scoreChanges, scores } from '@/data/schema';

export interface HandIn {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly at: Instant;
  readonly points: number | null;
}

const cellOf = (h: { readonly enrolmentId: number; readonly activityId: number }) =>
  and(eq(attempts.enrolmentId, h.enrolmentId), eq(attempts.activityId, h.activityId));

async function storedAttempts({ orm }: Access, cell: HandIn) {
  const rows = await orm.select().from(attempts).where(cellOf(cell)).orderBy(asc(attempts.number));
  return rows.map((r) => ({ at: r.submittedAt.getTime(), points: r.points }));
}

/** Writes the attempts of a cell, numbered by when they were handed in. */
async function writeAttempts({ orm }: Access, cell: HandIn, list: { at: Instant; points: number | null }[]) {
  await orm.delete(attempts).where(cellOf(cell));
  if (list.length === 0) return;
  list.sort((a, b) => a.at - b.at || (a.points ?? -1) - (b.points ?? -1));
  await orm.insert(attempts).values(
    list.map((a, i) => ({
      enrolmentId: cell.enrolmentId,
      activityId: cell.activityId,
      number: i + 1,
      submittedAt: new Date(a.at),
      points: a.points,
    })),
  );
}

const scoreCell = (h: HandIn) =>
  and(eq(scores.enrolmentId, h.enrolmentId), eq(scores.activityId, h.activityId));

/** Somebody graded the cell here: what they decided stands. */
async function decidedHere({ orm }: Access, h: HandIn): Promise<boolean> {
  const found = await orm
    .select({ id: scoreChanges.id })
    .from(scoreChanges)
    .where(
      and(
        eq(scoreChanges.enrolmentId, h.enrolmentId),
        eq(scoreChanges.activityId, h.activityId),
        isNull(scoreChanges.undoneAt),
      ),
    )
    .limit(1);
  return found.length > 0;
}

/**
 * Takes a hand-in into the gradebook: one more attempt; the first one says when it was handed in, the best one its
 * points. In any order they give the same. A cell that somebody changed here keeps its grade.
 */
export async function takeHandIn(access: Access, handIn: HandIn): Promise<void> {
  const list = await storedAttempts(access, handIn);
  if (list.some((a) => a.at === handIn.at && a.points === handIn.points)) return;
  list.push({ at: handIn.at, points: handIn.points });
  await writeAttempts(access, handIn, list);
  if (await decidedHere(access, handIn)) return;
  const [known] = await access.orm.select().from(scores).where(scoreCell(handIn));
  const better = handIn.points != null && (known?.points == null || handIn.points > known.points);
  const at = new Date(handIn.at);
  const submittedAt = known?.submittedAt && known.submittedAt < at ? known.submittedAt : at;
  const set = { submittedAt, ...(better ? { points: handIn.points, gradedAt: at, returnedAt: at } : {}) };
  await access.orm
    .insert(scores)
    .values({ enrolmentId: handIn.enrolmentId, activityId: handIn.activityId, ...set })
    .onConflictDoUpdate({ target: [scores.enrolmentId, scores.activityId], set });
}

/** Takes a hand-in out again: what is left of the attempts decides. A cell that somebody changed here stays. */
export async function takeBackHandIn(access: Access, handIn: HandIn): Promise<void> {
  const list = await storedAttempts(access, handIn);
  const i = list.findIndex((a) => a.at === handIn.at && a.points === handIn.points);
  if (i < 0) return;
  list.splice(i, 1);
  await writeAttempts(access, handIn, list);
  if (await decidedHere(access, handIn)) return;
  if (list.length === 0) {
    await access.orm.delete(scores).where(scoreCell(handIn));
    return;
  }
  const best = list.reduce((b, a) => ((a.points ?? -1) > (b.points ?? -1) ? a : b));
  const graded = best.points == null ? null : new Date(best.at);
  await access.orm
    .update(scores)
    .set({
      submittedAt: new Date(Math.min(...list.map((a) => a.at))),
      points: best.points,
      gradedAt: graded,
      returnedAt: graded,
    })
    .where(scoreCell(handIn));
}
