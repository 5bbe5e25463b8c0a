import { eq } from 'drizzle-orm';
import type { Access, Database } from '../database';
import { courses } from '../schema';

/**
 * Makes others who change a course wait until this transaction ends: two at once would each build on what the other is
 * replacing. For the few that hold several courses, or make theirs; everything else asks `underLock`.
 */
export async function lockCourse({ orm }: Access, courseId: number): Promise<void> {
  await orm.select({ id: courses.id }).from(courses).where(eq(courses.id, courseId)).for('update');
}

/** Reads, decides and writes in one transaction that holds a course: nobody changes it in between. */
export const underLock = <T>(db: Database, courseId: number, work: (tx: Access) => Promise<T>): Promise<T> =>
  db.transaction(async (tx) => {
    await lockCourse(tx, courseId);
    return work(tx);
  });
