import { and, eq, exists, isNull, notExists, sql } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import { behind, courses, enrolments, events, studentDwells } from '@/data/schema';
import { queueRebuild } from '../derive/rebuild';
import { evaluationKey, queueEvaluation } from '../derive/outdated';
import { followSoon } from './follow';

/**
 * Has everything done that a stop, or an older version of the program, left undone: called once at the start. Whatever
 * stands in the queue already is not asked for twice.
 */
export async function queueLeftOver(db: Database): Promise<void> {
  await db.transaction(async (tx) => {
    for (const id of await withoutDerived(tx)) await queueRebuild(tx, id);
    const late = await tx.orm
      .selectDistinct({ id: enrolments.courseId })
      .from(behind)
      .innerJoin(enrolments, eq(enrolments.id, behind.enrolmentId));
    for (const { id } of late) await followSoon(tx, id);
    const all = await tx.orm
      .select({ id: courses.id })
      .from(courses)
      .where(and(isNull(courses.archivedAt), isNull(courses.forImport)));
    const asked = await tx.orm.execute(
      sql`select key from jobs where kind = 'evaluate' and state = 'queued'`,
    );
    const known = new Set((asked as unknown as { rows: { key: string }[] }).rows.map((r) => r.key));
    for (const { id } of all) if (!known.has(evaluationKey(id))) await queueEvaluation(tx, id);
  });
}

/** Courses with events of which nothing is kept that this version of the program derives. */
async function withoutDerived({ orm }: Access): Promise<number[]> {
  const derived = orm
    .select({ id: studentDwells.enrolmentId })
    .from(studentDwells)
    .innerJoin(enrolments, eq(enrolments.id, studentDwells.enrolmentId))
    .where(eq(enrolments.courseId, courses.id));
  const ofCourse = orm.select({ id: events.eventId }).from(events).where(eq(events.courseId, courses.id));
  const found = await orm
    .select({ id: courses.id })
    .from(courses)
    .where(and(isNull(courses.forImport), exists(ofCourse), notExists(derived)));
  return found.map((c) => c.id);
}
