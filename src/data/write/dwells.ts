import { and, eq, sql } from 'drizzle-orm';
import type { DwellCounts } from '@/core/activity/dwell';
import type { Access } from '@/data/database';
import { courseDwells, enrolments, studentDwells } from '@/data/schema';
import { idsIn } from '@/data/queries/idsIn';

/** Counts as they are stored: triples of kind, second and count, ascending. */
export function packCounts(counts: DwellCounts): number[] {
  const packed: number[] = [];
  for (const [kind, ofKind] of [...counts].sort((a, b) => a[0] - b[0])) {
    ofKind.forEach((n, second) => n !== 0 && packed.push(kind, second, n));
  }
  return packed;
}

/** Adds packed counts to others, or takes them away. */
export function addCounts(counts: DwellCounts, packed: readonly number[], sign: 1 | -1, size: number): void {
  for (let i = 0; i < packed.length; i += 3) {
    const kind = packed[i]!;
    let ofKind = counts.get(kind);
    if (!ofKind) counts.set(kind, (ofKind = new Int32Array(size)));
    ofKind[packed[i + 1]!]! += sign * packed[i + 2]!;
  }
}

/** Adds counts to others. */
export function sumCounts(counts: DwellCounts, more: DwellCounts): void {
  for (const [kind, ofKind] of more) {
    const sum = counts.get(kind);
    if (!sum) counts.set(kind, ofKind.slice());
    else ofKind.forEach((n, second) => n !== 0 && (sum[second]! += n));
  }
}

/** The counts of a whole course, as stored. */
export async function loadCourseDwells({ orm }: Access, courseId: number): Promise<DwellCounts> {
  const rows = await orm.select().from(courseDwells).where(eq(courseDwells.courseId, courseId));
  return new Map(rows.map((r) => [r.kind, Int32Array.from(r.counts)]));
}

/** Replaces the counts of the kinds given; a kind that nothing is left of goes. */
export async function storeCourseDwells(
  { orm }: Access,
  courseId: number,
  counts: DwellCounts,
  kinds: Iterable<number>,
): Promise<void> {
  for (const kind of kinds) {
    const values = [...(counts.get(kind) ?? [])];
    if (values.every((n) => n === 0)) {
      await orm
        .delete(courseDwells)
        .where(and(eq(courseDwells.courseId, courseId), eq(courseDwells.kind, kind)));
      continue;
    }
    await orm
      .insert(courseDwells)
      .values({ courseId, kind, counts: values })
      .onConflictDoUpdate({ target: [courseDwells.courseId, courseDwells.kind], set: { counts: values } });
  }
}

export type StudentDwells = typeof studentDwells.$inferSelect;

/** What is stored of some students. */
export async function loadStudentDwells(
  { orm }: Access,
  ids: readonly number[],
): Promise<Map<number, StudentDwells>> {
  const rows = await orm.select().from(studentDwells).where(idsIn(studentDwells.enrolmentId, ids));
  return new Map(rows.map((r) => [r.enrolmentId, r]));
}

/** Students of a course whose sessions lean on the class's median of any of the kinds. */
export async function leaningOn(
  { orm }: Access,
  courseId: number,
  kinds: readonly number[],
): Promise<number[]> {
  if (kinds.length === 0) return [];
  const rows = await orm
    .select({ id: studentDwells.enrolmentId })
    .from(studentDwells)
    .innerJoin(enrolments, eq(enrolments.id, studentDwells.enrolmentId))
    .where(
      sql`${enrolments.courseId} = ${courseId} and exists (
        select 1 from jsonb_array_elements(${studentDwells.relies}) as kind
        where kind::int = any(${sql.param([...kinds])}::int[]))`,
    );
  return rows.map((r) => r.id);
}
