import { eq } from 'drizzle-orm';
import { courses } from '@/data/schema';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { queueRebuild, rebuild } from '../derive/rebuild';
import { setupChanged } from '../derive/setupChanged';
import { ensureEvaluated } from '../derive/evaluation';
import { hasRunner, untilEnded, wakeRunner } from '../jobs/queue';
import { mayIn, requireCourse, type Viewer } from '../access/viewer';
import type { SettingsForm } from '@/core/forms/settings';
import type { FlagsView } from '@/core/views/settings';
import { partsOf } from '@/data/queries/parts';
import { invalid } from '../base/errors';
import { refuseStale } from '../base/version';
import { underLock } from '@/data/write/underLock';

/** The thresholds of a course. */
export async function courseSettings(viewer: Viewer, code: string): Promise<SettingsForm> {
  return settingsIn(await requireCourse(viewer, 'set up', code));
}

const settingsIn = ({ sessionGapMinutes, indicators }: CourseRow): SettingsForm => ({
  sessionGapMinutes,
  indicators: { ...indicators, apart: indicators.apart ?? [] },
});

/** The thresholds of a course, with what they can be set apart for. */
export async function flagsView(viewer: Viewer, code: string): Promise<FlagsView> {
  const course = await requireCourse(viewer, 'set up', code);
  return {
    settings: await courseSettings(viewer, code),
    parts: await partsOf(await database(), course.id),
    seesStudents: await mayIn(viewer, 'look', course.id),
    hasRules: await mayIn(viewer, 'act', course.id),
  };
}

/** Stores thresholds; flags are evaluated by them, and by another session limit all sessions are cut anew, before it returns. */
export async function saveSettings(
  viewer: Viewer,
  code: string,
  settings: SettingsForm,
  was?: object | null,
): Promise<void> {
  const course = await requireCourse(viewer, 'set up', code);
  const db = await database();
  const recut = settings.sessionGapMinutes !== course.sessionGapMinutes;
  const job = await underLock(db, course.id, async (tx) => {
    const [stored] = await tx.orm.select().from(courses).where(eq(courses.id, course.id));
    refuseStale(was, settingsIn(stored!));
    const known = new Set((await partsOf(tx, course.id)).map((p) => p.part));
    const had = new Set((course.indicators.apart ?? []).map((a) => a.part));
    // Those of a group that is gone may stay; they count for nobody.
    if (settings.indicators.apart?.some((a) => !known.has(a.part) && !had.has(a.part)))
      throw invalid('Limits are set apart for sections of this course, and groups with somebody in it.');
    await tx.orm.update(courses).set(settings).where(eq(courses.id, course.id));
    await setupChanged(tx, course.id);
    return recut ? queueRebuild(tx, course.id) : null;
  });
  wakeRunner();
  if (job) await (hasRunner() ? untilEnded(db, job) : rebuild(db, course.id));
  await ensureEvaluated({ ...course, evaluatedAt: null });
}
