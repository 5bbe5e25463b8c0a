import { and, eq, sql } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import { activityDayRows, activityTotalRows, dayRows, enrolments, sessionRows } from '@/data/schema';
import { turn } from '@/data/turn';
import { idsIn } from '@/data/queries/idsIn';

const TABLES = [sessionRows, dayRows, activityDayRows, activityTotalRows];

/** A number for the next version of derived rows; the holding ones began with 0. */
export async function nextVersion({ orm }: Access): Promise<number> {
  const found = await orm.execute(sql`select nextval('derived_versions') as version`);
  return Number((found as unknown as { rows: { version: string | number }[] }).rows[0]!.version);
}

/** Takes out what was prepared of a version for some students. */
export async function removePrepared(
  { orm }: Access,
  ids: readonly number[],
  version: number,
): Promise<void> {
  for (const rows of TABLES)
    await orm.delete(rows).where(and(idsIn(rows.enrolmentId, ids), eq(rows.version, version)));
}

/** Lets a prepared version hold for some students, in place of the one before. */
export async function letHold({ orm }: Access, ids: readonly number[], version: number): Promise<void> {
  await orm.update(enrolments).set({ version }).where(idsIn(enrolments.id, ids));
}

/** Students whose rows are looked through together: few enough that nobody waits for it. */
const TOGETHER = 8;

/**
 * Takes out the versions of a course's derived rows that held before, a few students at a time. A later version may be
 * in preparation and stays.
 */
export async function sweepVersions(db: Database, courseId: number): Promise<void> {
  const all = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  for (let i = 0; i < all.length; i += TOGETHER) {
    const ids = all.slice(i, i + TOGETHER).map((e) => e.id);
    for (const rows of TABLES) {
      const before = sql`${rows.version} < (select e.version from ${enrolments} e where e.id = ${rows.enrolmentId})`;
      await db.orm.delete(rows).where(and(idsIn(rows.enrolmentId, ids), before));
      await turn();
    }
  }
}
