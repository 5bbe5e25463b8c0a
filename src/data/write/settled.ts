import { countDwells, COUNTED_SECONDS, type DwellCounts } from '@/core/activity/dwell';
import { settledFrom } from '@/core/activity/settle';
import type { Sessionized } from '@/core/activity/sessions';
import type { Access } from '@/data/database';
import { settled } from '@/data/schema';
import { addCounts, packCounts } from './dwells';
import type { ActivityColumns } from '../queries/eventColumns';
import { idsIn } from '@/data/queries/idsIn';

export type Settled = typeof settled.$inferSelect;

/** What is settled of some students. */
export async function loadSettled({ orm }: Access, ids: readonly number[]): Promise<Map<number, Settled>> {
  const rows = await orm.select().from(settled).where(idsIn(settled.enrolmentId, ids));
  return new Map(rows.map((r) => [r.enrolmentId, r]));
}

/** The events of one student of a cut as columns of their own order, those from one position to another. */
function countsBetween(
  columns: ActivityColumns,
  { order }: Sessionized,
  from: number,
  until: number,
): DwellCounts {
  const offsets = Int32Array.of(from, until);
  return countDwells({ ...columns, studentCount: 1 }, { ...order, offsets });
}

/** Kinds of the events that end a session, between two positions of one student. */
export function endsBetween(
  columns: ActivityColumns,
  { order, dwells }: Sessionized,
  from: number,
  until: number,
): number[] {
  const kinds = new Set<number>();
  for (let p = from; p < until; p++) {
    if (p + 1 === until || dwells.starts[p + 1] === 1) kinds.add(columns.kind[order.rows[p]!]!);
  }
  return [...kinds];
}

/**
 * What has grown old enough to be settled of each student of a cut, on top of what was settled before. Whoever was read
 * as a whole is settled anew, or not at all: then nothing of theirs stays.
 */
export function settleOld(
  ids: readonly number[],
  columns: ActivityColumns,
  cut: Sessionized,
  before: readonly (Settled | null)[],
  gapMinutes: number,
): { readonly rows: Settled[]; readonly gone: number[] } {
  const rows: Settled[] = [];
  const anew: number[] = [];
  ids.forEach((enrolmentId, s) => {
    const known = before[s] ?? null;
    if (!known) anew.push(enrolmentId);
    const first = cut.order.offsets[s]!;
    const since = known?.until.getTime() ?? cut.order.at[first] ?? Infinity;
    const from = settledFrom(columns, cut.order, s, gapMinutes, since);
    if (from == null) return;
    const counts = countsBetween(columns, cut, first, from);
    if (known) addCounts(counts, known.counts, 1, COUNTED_SECONDS);
    const ends = new Set([...(known?.ends ?? []), ...endsBetween(columns, cut, first, from)]);
    rows.push({
      enrolmentId,
      until: new Date(cut.order.at[from]!),
      counts: packCounts(counts),
      ends: [...ends].sort((a, b) => a - b),
    });
  });
  return { rows, gone: [...new Set([...anew, ...rows.map((r) => r.enrolmentId)])] };
}

/** Rows a statement: each has some thousand numbers. */
const TOGETHER = 50;

/** Stores what is settled, in the place of what was. */
export async function storeSettled(
  { orm }: Access,
  rows: readonly Settled[],
  gone: readonly number[],
): Promise<void> {
  if (gone.length > 0) await orm.delete(settled).where(idsIn(settled.enrolmentId, gone));
  for (let i = 0; i < rows.length; i += TOGETHER)
    await orm.insert(settled).values(rows.slice(i, i + TOGETHER));
}
