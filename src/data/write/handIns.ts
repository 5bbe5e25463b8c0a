import { asc, eq, sql } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, scores } from '@/data/schema';
import { deleteMany, insertMany, upsertMany } from '@/data/write/bulk';

export interface HandIn {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly at: Instant;
  readonly points: number | null;
}

/** A student's work, and the attempts at it. */
interface Cell {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly list: { readonly at: Instant; readonly points: number | null }[];
  changed: boolean;
}

const nameOf = (c: { readonly enrolmentId: number; readonly activityId: number }) =>
  `${c.enrolmentId} ${c.activityId}`;

/** Cells as rows that a statement can join. */
const wanted = (cells: readonly Pick<Cell, 'enrolmentId' | 'activityId'>[]) =>
  sql`unnest(${sql.param(cells.map((c) => c.enrolmentId))}::int[], ${sql.param(cells.map((c) => c.activityId))}::int[]) as wanted(e, a)`;
const isWanted = (table: typeof attempts | typeof scores) =>
  sql`wanted.e = ${table.enrolmentId} and wanted.a = ${table.activityId}`;

/** The cells that hand-ins are about, with the attempts that are stored. */
async function cellsOf({ orm }: Access, handIns: readonly HandIn[]): Promise<Map<string, Cell>> {
  const cells = new Map<string, Cell>();
  for (const { enrolmentId, activityId } of handIns)
    cells.set(nameOf({ enrolmentId, activityId }), { enrolmentId, activityId, list: [], changed: false });
  const rows = await orm
    .select({ row: attempts })
    .from(attempts)
    .innerJoin(wanted([...cells.values()]), isWanted(attempts))
    .orderBy(asc(attempts.number));
  for (const { row } of rows)
    cells.get(nameOf(row))!.list.push({ at: row.submittedAt.getTime(), points: row.points });
  return cells;
}

const placeIn = ({ enrolmentId, activityId }: Cell) => ({ enrolmentId, activityId });

/** Attempts by when they were handed in. */
const inOrder = (list: Cell['list']): Cell['list'] =>
  list.toSorted((a, b) => a.at - b.at || (a.points ?? -1) - (b.points ?? -1));

/** Writes the attempts of cells, numbered by when they were handed in, and what they come to. */
async function writeCells(access: Access, cells: readonly Cell[]): Promise<void> {
  if (cells.length === 0) return;
  await deleteMany(access, attempts, [attempts.enrolmentId, attempts.activityId], cells.map(placeIn));
  const rows = cells.flatMap(({ enrolmentId, activityId, list }) =>
    inOrder(list).map((a, i) => ({
      enrolmentId,
      activityId,
      number: i + 1,
      submittedAt: new Date(a.at),
      points: a.points,
    })),
  );
  await insertMany(access, attempts, rows);

  // What a gradebook file says, or somebody decided here, stands.
  const decided = await access.orm
    .select({ enrolmentId: scores.enrolmentId, activityId: scores.activityId })
    .from(scores)
    .innerJoin(wanted(cells), isWanted(scores))
    .where(eq(scores.fromStatements, false));
  const stands = new Set(decided.map(nameOf));
  const free = cells.filter((c) => !stands.has(nameOf(c)));
  const empty = free.filter((c) => c.list.length === 0);
  await deleteMany(access, scores, [scores.enrolmentId, scores.activityId], empty.map(placeIn));
  const full = free.filter((c) => c.list.length > 0).map(scoreOf);
  await upsertMany(access, scores, [scores.enrolmentId, scores.activityId], full);
}

/** What the attempts of a cell come to: the first says when it was handed in, the best its points. */
function scoreOf({ enrolmentId, activityId, list }: Cell) {
  // Of equal ones the earliest, in whatever order they came.
  const best = inOrder(list).reduce((b, a) => ((a.points ?? -1) > (b.points ?? -1) ? a : b));
  const graded = best.points == null ? null : new Date(best.at);
  return {
    enrolmentId,
    activityId,
    submittedAt: new Date(Math.min(...list.map((a) => a.at))),
    points: best.points,
    gradedAt: graded,
    returnedAt: graded,
    fromStatements: true,
  };
}

const placeOf = ({ list }: Cell, { at, points }: HandIn) =>
  list.findIndex((a) => a.at === at && a.points === points);

/** Changes the attempts of the cells that hand-ins are about, one hand-in after the other. */
async function changeCells(
  access: Access,
  handIns: readonly HandIn[],
  change: (cell: Cell, handIn: HandIn, place: number) => void,
): Promise<void> {
  if (handIns.length === 0) return;
  const cells = await cellsOf(access, handIns);
  for (const handIn of handIns) {
    const cell = cells.get(nameOf(handIn))!;
    change(cell, handIn, placeOf(cell, handIn));
  }
  await writeCells(
    access,
    [...cells.values()].filter((c) => c.changed),
  );
}

/** Takes hand-ins into the gradebook, each as one more attempt. In any order they come to the same. */
export const takeHandIns = (access: Access, handIns: readonly HandIn[]): Promise<void> =>
  changeCells(access, handIns, (cell, { at, points }, place) => {
    if (place >= 0) return;
    cell.list.push({ at, points });
    cell.changed = true;
  });

/** Takes hand-ins out again: what is left of the attempts decides. */
export const takeBackHandIns = (access: Access, handIns: readonly HandIn[]): Promise<void> =>
  changeCells(access, handIns, (cell, _, place) => {
    if (place < 0) return;
    cell.list.splice(place, 1);
    cell.changed = true;
  });
