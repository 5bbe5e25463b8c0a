import { eq } from 'drizzle-orm';
import * as changes from '@/core/gradebook/changes';
import { USUAL_BANDS, type ScoreBands } from '@/core/gradebook/bands';
import type { Instant } from '@/core/units';
import type { Changed, SeenCell } from '@/core/views/gradebook';
import { courses } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid } from '../base/errors';
import { refuseStale } from '../base/version';
import { requireCourse, type Viewer } from '../access/viewer';
import { saveViewSetting } from '../access/viewSettings';
import { changeCells } from './gradeChange';
import { underLock } from '@/data/write/underLock';

/** Gives grades and returns them at once; null takes a grade away. Points over the maximum are refused. */
export function grade(
  viewer: Viewer,
  code: string,
  cells: readonly (SeenCell & { readonly points: number | null })[],
  action: 'grade' | 'paste' = 'grade',
): Promise<Changed> {
  const at = now();
  return changeCells(
    viewer,
    code,
    action,
    cells.map((cell) => ({
      ...cell,
      to: (state, maximum) => {
        if (cell.points != null && maximum == null) throw invalid('This assignment has no points.');
        if (cell.points != null && (cell.points < 0 || cell.points > maximum!))
          throw invalid(`${cell.points} is not between 0 and the maximum of ${maximum}.`);
        return changes.graded(state, cell.points, at);
      },
    })),
  );
}

/** Excuses works, or ends the excuse. */
export const excuse = (viewer: Viewer, code: string, cells: readonly SeenCell[], on: boolean) =>
  changeCells(
    viewer,
    code,
    'excuse',
    cells.map((cell) => ({ ...cell, to: (state) => changes.excused(state, on) })),
  );

/** Gives students their own due instant; null takes it away again. */
export async function extend(
  viewer: Viewer,
  code: string,
  cells: readonly SeenCell[],
  due: Instant | null,
): Promise<Changed> {
  const course = await requireCourse(viewer, 'grade', code);
  const { orm } = await database();
  if (due != null) {
    const works = await orm.query.activities.findMany({
      where: (a, { and, eq: is, inArray }) =>
        and(is(a.courseId, course.id), inArray(a.id, [...new Set(cells.map((c) => c.activityId))])),
    });
    const early = works.find((w) => w.opensAt != null && w.opensAt.getTime() > due);
    if (early) throw invalid(`“${early.title}” only opens after that; choose a later day.`);
    const sooner = works.find((w) => w.dueAt != null && w.dueAt.getTime() > due);
    if (sooner) throw invalid(`“${sooner.title}” is due later than that anyway; choose a later day.`);
  }
  return changeCells(
    viewer,
    code,
    'extend',
    cells.map((cell) => ({ ...cell, to: (state) => changes.extended(state, due) })),
  );
}

/** Grants one more attempt than the activity allows. */
export const grantAttempt = (viewer: Viewer, code: string, cells: readonly SeenCell[]) =>
  changeCells(
    viewer,
    code,
    'grant attempt',
    cells.map((cell) => ({ ...cell, to: changes.granted })),
  );

/** Sets where low scores end and high ones begin. */
export async function saveBands(
  viewer: Viewer,
  code: string,
  bands: ScoreBands,
  was?: object | null,
): Promise<void> {
  const course = await requireCourse(viewer, 'grade', code);
  for (const cuts of [bands.practice, bands.other])
    if (cuts.low >= cuts.high) throw invalid('The low band has to end below where the high one begins.');
  const db = await database();
  await underLock(db, course.id, async (tx) => {
    const [stored] = await tx.orm
      .select({ bands: courses.bands })
      .from(courses)
      .where(eq(courses.id, course.id));
    refuseStale(was, stored!.bands ?? USUAL_BANDS);
    await tx.orm.update(courses).set({ bands }).where(eq(courses.id, course.id));
  });
}

/** Decides whether students see their standing. */
export async function showStanding(viewer: Viewer, code: string, on: boolean): Promise<void> {
  const course = await requireCourse(viewer, 'grade', code);
  const { orm } = await database();
  await orm.update(courses).set({ showsStanding: on }).where(eq(courses.id, course.id));
}

/** Keeps whether the viewer hides the standing column. */
export async function hideStanding(viewer: Viewer, code: string, hidesStanding: boolean): Promise<void> {
  await saveViewSetting(viewer, await requireCourse(viewer, 'grade', code), 'gradebook', { hidesStanding });
}
