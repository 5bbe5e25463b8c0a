import type { Access, Database } from '@/data/database';
import { enqueue } from '../jobs/queue';
import { deriveActivity } from './activity';
import { loadCourseModel, lockCourse } from './courseModel';
import { figuresLine, outdated } from './outdated';

/** Has all of a course derived anew, in the transaction of what asks for it. */
export const queueRebuild = (access: Access, courseId: number): Promise<string> =>
  enqueue(access, {
    kind: 'rebuild',
    payload: { courseId },
    key: `rebuild ${courseId}`,
    line: figuresLine(courseId),
  });

/** Derives all of a course anew; its flags are evaluated after it. */
export async function rebuild(db: Database, courseId: number): Promise<void> {
  await db.transaction(async (tx) => {
    await lockCourse(tx, courseId);
    await deriveActivity(tx, await loadCourseModel(tx, courseId), null);
    await outdated(tx, courseId);
  });
}
