import { eq } from 'drizzle-orm';
import { courses } from '@/data/schema';
import { database } from '../base/database';
import { lockCourse } from '@/data/queries/courseModel';
import { queueRebuild, rebuild } from '../derive/rebuild';
import { setupChanged } from '../derive/setupChanged';
import { ensureEvaluated } from '../derive/evaluation';
import { hasRunner, untilEnded, wakeRunner } from '../jobs/queue';
import { requireCourse, type Viewer } from '../access/viewer';
import type { CourseSettings } from '@/core/views/settings';

export async function courseSettings(viewer: Viewer, code: string): Promise<CourseSettings> {
  const { sessionGapMinutes, indicators } = await requireCourse(viewer, 'set up', code);
  return { sessionGapMinutes, indicators };
}

/** Stores thresholds; flags are evaluated by them, and by another session limit all sessions are cut anew, before it returns. */
export async function saveSettings(viewer: Viewer, code: string, settings: CourseSettings): Promise<void> {
  const course = await requireCourse(viewer, 'set up', code);
  const db = await database();
  const recut = settings.sessionGapMinutes !== course.sessionGapMinutes;
  const job = await db.transaction(async (tx) => {
    await lockCourse(tx, course.id);
    await tx.orm.update(courses).set(settings).where(eq(courses.id, course.id));
    await setupChanged(tx, course.id);
    return recut ? queueRebuild(tx, course.id) : null;
  });
  wakeRunner();
  if (job) await (hasRunner() ? untilEnded(db, job) : rebuild(db, course.id));
  await ensureEvaluated({ ...course, evaluatedAt: null });
}
