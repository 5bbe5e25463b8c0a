import { eq } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { courses } from '@/data/schema';
import { underLock } from '@/data/write/underLock';
import { UseCaseError } from '../base/errors';

/** How often a decision is made again that others overtook; live courses change several times a second. */
const MOST_TRIES = 25;

/**
 * Decides and writes as `underLock` does, for what is decided from a snapshot of the course, which no transaction can read: the decision is written only if
 * the course is still as it was decided on, and is made again otherwise.
 *
 * @param decide reads and decides, for the course as it is now
 * @param write writes what was decided, in the transaction that holds the course
 * @throws a conflict, in words, if others were quicker each time
 */
export async function decidedUnderLock<D, T>(
  db: Database,
  courseId: number,
  decide: (course: CourseRow) => Promise<D>,
  write: (tx: Access, decision: D) => Promise<T>,
): Promise<T> {
  const read = async ({ orm }: Access) => {
    const [row] = await orm.select().from(courses).where(eq(courses.id, courseId));
    if (!row) throw new Error('the course is gone');
    return row;
  };
  for (let i = 0; i < MOST_TRIES; i++) {
    const course = await read(db);
    const decision = await decide(course);
    const done = await underLock(db, courseId, async (tx) => {
      const { rev, setupRev } = await read(tx);
      return rev === course.rev && setupRev === course.setupRev ? { value: await write(tx, decision) } : null;
    });
    if (done) return done.value;
  }
  throw new UseCaseError(
    'conflict',
    'The course is changing too fast right now. Nothing was saved; try again in a moment.',
  );
}
