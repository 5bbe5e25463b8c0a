import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { decideGive } from '@/core/plans/given';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { givenBatches } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { follows, givenTo, moreTimeOf, writeGiven } from './givenRows';
import { targetMembers } from './members';
import { underLock } from '@/data/write/underLock';

/**
 * Gives whoever has joined a section, a group or the course since what was assigned to it, as long as it is not open yet:
 * what was open before they came is not theirs to catch up on.
 */
export async function inheritGiven(db: Database, course: CourseRow): Promise<void> {
  const waiting = await db.orm
    .select()
    .from(givenBatches)
    .where(
      and(
        eq(givenBatches.courseId, course.id),
        isNull(givenBatches.undoneAt),
        sql`${givenBatches.target} is not null and ${givenBatches.opensAt} > ${nowDate().toISOString()}::timestamptz`,
      ),
    )
    .orderBy(desc(givenBatches.id));
  for (const row of waiting) {
    const members = await targetMembers(db, course, row.target!, row.userId ?? '');
    const has = await givenTo(db, row.activityIds);
    const known = new Set(row.changes.map((c) => c.enrolmentId));
    const moreTime = await moreTimeOf(db, members);
    const { changes } = decideGive({
      students: members.filter((id) => !known.has(id)),
      activities: row.activityIds,
      dates: {
        opensAt: row.opensAt!.getTime(),
        dueAt: row.dueAt?.getTime() ?? null,
        closesAt: row.closesAt?.getTime() ?? null,
      },
      again: false,
      now: now(),
      has,
      isDone: () => false,
      moreTime,
    });
    if (changes.length === 0) continue;
    await underLock(db, course.id, async (tx) => {
      await writeGiven(tx, changes, 'after');
      await tx.orm
        .update(givenBatches)
        .set({ changes: sql`${givenBatches.changes} || ${JSON.stringify(changes)}::jsonb` })
        .where(eq(givenBatches.id, row.id));
      await follows(
        tx,
        course.id,
        changes.map((c) => c.enrolmentId),
        false,
      );
    });
  }
}
