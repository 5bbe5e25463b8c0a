import { eq } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import { courses } from '@/data/schema';
import { unwatched, type Progress } from '../jobs/progress';
import { enqueue } from '../jobs/queue';
import { deriveActivity, installActivity, prepareActivity } from './activity';
import { loadCourseModel } from '@/data/queries/courseModel';
import { figuresLine, queueEvaluation, queueSweep } from './outdated';
import { nextVersion } from '@/data/write/versions';
import { underLock } from '@/data/write/underLock';

/** Has all of a course derived anew, in the transaction of what asks for it. */
export const queueRebuild = (access: Access, courseId: number): Promise<string> =>
  enqueue(access, {
    kind: 'rebuild',
    payload: { courseId },
    key: `rebuild ${courseId}`,
    line: figuresLine(courseId),
  });

/** How often a rebuild begins anew because something came in; then others wait for it. */
const ANEW = 3;

/**
 * Derives all of a course anew, in a version that holds once all of it is there; its flags are evaluated after it. What
 * comes in meanwhile makes it begin anew.
 */
export async function rebuild(db: Database, courseId: number, progress: Progress = unwatched): Promise<void> {
  for (let i = 0; i < ANEW; i++) {
    const course = await loadCourseModel(db, courseId);
    const derived = await prepareActivity(db, course, null, await nextVersion(db), undefined, progress);
    if (!derived) return;
    const held = await underLock(db, courseId, async (tx) => {
      const [row] = await tx.orm.select().from(courses).where(eq(courses.id, courseId));
      if (!row || row.rev !== course.row.rev || row.setupRev !== course.row.setupRev) return false;
      await installActivity(tx, courseId, derived);
      await queueEvaluation(tx, courseId);
      await queueSweep(tx, courseId);
      return true;
    });
    if (held) return;
  }
  await underLock(db, courseId, async (tx) => {
    await deriveActivity(tx, await loadCourseModel(tx, courseId), null);
    await queueEvaluation(tx, courseId);
  });
}
