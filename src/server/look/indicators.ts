import { flaggedByWeek } from '@/core/flags/flaggedByWeek';
import { FLAG_KINDS, type IndicatorSettings } from '@/core/flags/indicators';
import type { IndicatorPreview } from '@/core/views/indicators';
import { requireCourse, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { inTurns } from '../base/turns';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';

/** Whom the indicators of a course would have found in each week, and find now, with thresholds that are not saved. */
export async function indicatorPreview(
  viewer: Viewer,
  code: string,
  settings: IndicatorSettings,
): Promise<IndicatorPreview[]> {
  await requireCourse(viewer, 'set up', code);
  // It names students, whom not everybody sees who sets a course up.
  const course = await requireCourse(viewer, 'look', code);
  const snapshot = await snapshotOf(course);
  const weeks = await inTurns(flaggedByWeek(await snapshot.record(), settings, now()));
  const people = await roster(course.id);
  return FLAG_KINDS.map((kind) => {
    const last = weeks.at(-1)?.[kind];
    return {
      kind,
      weeks: weeks.map((w) => {
        const levels = [...w[kind].values()];
        const act = levels.filter((l) => l === 'act').length;
        return { act, watch: levels.length - act };
      }),
      now: people.flatMap(({ enrolmentId: id, name }) => {
        const level = last?.get(id);
        return level ? [{ id, name, level }] : [];
      }),
    };
  });
}
