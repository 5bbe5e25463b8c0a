import { and, asc, eq } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, scores } from '@/data/schema';

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

/** Writes what the attempts of a cell come to: the first says when it was handed in, the best its points. */
async function settle(
  { orm }: Access,
  cell: HandIn,
  list: readonly { at: Instant; points: number | null }[],
) {
  const [known] = await orm.select().from(scores).where(scoreCell(cell));
  // What a gradebook file says, or somebody decided here, stands.
  if (known && !known.fromStatements) return;
  if (list.length === 0) {
    await orm.delete(scores).where(scoreCell(cell));
    return;
  }
  const best = list.reduce((b, a) => ((a.points ?? -1) > (b.points ?? -1) ? a : b));
  const graded = best.points == null ? null : new Date(best.at);
  const set = {
    submittedAt: new Date(Math.min(...list.map((a) => a.at))),
    points: best.points,
    gradedAt: graded,
    returnedAt: graded,
    fromStatements: true,
  };
  await orm
    .insert(scores)
    .values({ enrolmentId: cell.enrolmentId, activityId: cell.activityId, ...set })
    .onConflictDoUpdate({ target: [scores.enrolmentId, scores.activityId], set });
}

/** Takes a hand-in into the gradebook as one more attempt. In any order they come to the same. */
export async function takeHandIn(access: Access, handIn: HandIn): Promise<void> {
  const list = await storedAttempts(access, handIn);
  if (list.some((a) => a.at === handIn.at && a.points === handIn.points)) return;
  list.push({ at: handIn.at, points: handIn.points });
  await writeAttempts(access, handIn, list);
  await settle(access, handIn, list);
}

/** Takes a hand-in out again: what is left of the attempts decides. */
export async function takeBackHandIn(access: Access, handIn: HandIn): Promise<void> {
  const list = await storedAttempts(access, handIn);
  const i = list.findIndex((a) => a.at === handIn.at && a.points === handIn.points);
  if (i < 0) return;
  list.splice(i, 1);
  await writeAttempts(access, handIn, list);
  await settle(access, handIn, list);
}
