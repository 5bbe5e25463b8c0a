import { eq } from 'drizzle-orm';
import * as yup from 'yup';
import { GAP_MINUTES } from '@/core/activity/dwell';
import { courses } from '@/data/schema';
import { database } from '../base/database';
import { lockCourse } from '@/data/queries/courseModel';
import { queueRebuild, rebuild } from '../derive/rebuild';
import { setupChanged } from '../derive/setupChanged';
import { ensureEvaluated } from '../derive/evaluation';
import { hasRunner, untilEnded, wakeRunner } from '../jobs/queue';
import { requireCourse, type Viewer } from '../access/viewer';
import type { CourseSettings } from '@/core/views/settings';

const whole = (label: string, least: number, most: number) =>
  yup
    .number()
    .typeError(`${label} must be a number`)
    .integer(`${label} must be a whole number`)
    .min(least, `${label} must be at least ${least}`)
    .max(most, `${label} must be at most ${most}`)
    .required(`${label} is empty`);
const decimal = (label: string, least: number, most: number) =>
  yup
    .number()
    .typeError(`${label} must be a number`)
    .min(least, `${label} must be at least ${least}`)
    .max(most, `${label} must be at most ${most}`)
    .required(`${label} is empty`);

/** Thresholds that belong together. They must be there: left out, they would pass as if each were. */
const group = <S extends yup.ObjectShape>(shape: S) =>
  yup.object(shape).required('Some of the thresholds are missing');

/** The thresholds of a course as they come from the form: act is never less severe than watch. */
export const settingsSchema = group({
  sessionGapMinutes: whole('The session limit', GAP_MINUTES.least, GAP_MINUTES.most),
  indicators: group({
    notSeen: group({
      watchDays: whole('Not seen, watch', 1, 60),
      actDays: whole('Not seen, act', 1, 90).min(
        yup.ref('watchDays'),
        'Not seen, act must not be under watch',
      ),
      ownQuantile: decimal('Not seen, own rhythm', 0, 1),
    }),
    behind: group({
      watch: whole('Behind, watch', 1, 50),
      act: whole('Behind, act', 1, 50).min(yup.ref('watch'), 'Behind, act must not be under watch'),
    }),
    lowStanding: group({
      watch: decimal('Low standing, watch', 0, 100),
      act: decimal('Low standing, act', 0, 100).max(
        yup.ref('watch'),
        'Low standing, act must not be over watch',
      ),
      leastWorks: whole('Low standing, graded works', 1, 50),
    }),
    slipping: group({
      watch: decimal('Slipping, watch', 0.1, 50),
      act: decimal('Slipping, act', 0.1, 50).min(yup.ref('watch'), 'Slipping, act must not be under watch'),
      maxP: decimal('Slipping, largest p', 0.001, 1),
    }),
    lowTime: group({
      windowDays: whole('Low time, days', 1, 60),
      watch: decimal('Low time, watch', 0, 100),
      act: decimal('Low time, act', 0, 100).max(yup.ref('watch'), 'Low time, act must not be over watch'),
      leastMedianMinutes: whole('Low time, least class median', 0, 10_000),
    }),
    effort: group({
      windowDays: whole('Effort without progress, days', 7, 120),
      standingUnder: decimal('Effort without progress, standing', 0, 100),
    }),
  }),
});

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
