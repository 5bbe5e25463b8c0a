import { eq, like, sql } from 'drizzle-orm';
import { DAY_MS } from '@/core/units';
import { openEmbedded, type Database } from '@/data/database';
import { activities, courses, enrolments, scores } from '@/data/schema';
import { setDatabase } from '@/server/base/database';
import { actUnasked } from '@/server/unasked/act';

/** The instant of a round: each is on a day of its own. */
export const roundAt = (round: number): number => Date.parse('2026-10-28T12:00:00Z') + round * DAY_MS;

/** A quiz of a round, graded at its instant, for every active student. */
async function grade(db: Database, courseId: number, round: number): Promise<void> {
  await db.transaction(async ({ orm }) => {
    const [quiz] = await orm
      .insert(activities)
      .values({
        courseId,
        externalId: `round-${round}`,
        title: `Round ${round}`,
        kind: 'quiz',
        points: 10,
        position: 100 + round,
      })
      .returning();
    const [row] = await orm
      .update(courses)
      .set({ rev: sql`${courses.rev} + 1`, setupRev: sql`${courses.setupRev} + 1` })
      .where(eq(courses.id, courseId))
      .returning();
    const students = await orm
      .update(enrolments)
      .set({ rev: row!.rev })
      .where(sql`${enrolments.courseId} = ${courseId} and ${enrolments.status} = 'active'`)
      .returning();
    const at = new Date(roundAt(round));
    await orm.insert(scores).values(
      students.map((s) => ({
        enrolmentId: s.id,
        activityId: quiz!.id,
        points: 10,
        submittedAt: at,
        gradedAt: at,
        returnedAt: at,
        excused: false,
      })),
    );
  });
}

/** Finishes the round that was begun, then begins one after the other, until it is killed, or for so many. */
export async function rounds(
  db: Database,
  most: number,
  graded: () => void = () => undefined,
): Promise<void> {
  const [course] = await db.orm.select().from(courses).where(eq(courses.code, 'NAV'));
  const begun = await db.orm
    .select({ id: activities.id })
    .from(activities)
    .where(like(activities.externalId, 'round-%'));
  for (let round = begun.length; round <= begun.length + most; round++) {
    // A round that a kill has cut short is looked at once more, an hour after.
    process.env.LANTERN_NOW = new Date(roundAt(Math.max(1, round)) + 3_600_000).toISOString();
    if (round > begun.length) {
      await grade(db, course!.id, round);
      graded();
    }
    await actUnasked(db, course!.id);
  }
}

async function main(): Promise<void> {
  const db = await openEmbedded(process.env.LANTERN_DATA!, 'rounds of rules');
  setDatabase(db);
  await rounds(db, 10_000, () => void process.stdout.write('graded\n'));
}

if (process.argv[2] === 'run') void main();
