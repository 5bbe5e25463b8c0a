import type { RosterEntry } from '@/core/views/rosterEntry';
import type { ViewFrame } from '@/core/views/frame';
import type { ScopeView } from '@/core/views/scope';
import { trayOf } from '@/data/queries/tray';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { ensureEvaluated } from '../derive/evaluation';
import type { CourseModel, CourseRow } from '@/data/queries/courseModel';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { courseHead } from '../snapshot/courseHead';
import { termRibbon } from './ribbon';
import { peopleOf, scopeOf, type AskedScope } from './scope';

/** A course that somebody looks at: who asks has been checked, and the scope is what they asked for. */
export interface Opened {
  readonly row: CourseRow;
  readonly snapshot: Snapshot;
  readonly course: CourseModel;
  readonly scope: ScopeView;
  /** The active students of the scope, by family name. */
  readonly people: readonly RosterEntry[];
  readonly frame: ViewFrame;
}

/**
 * Opens a course for a view.
 *
 * @param options.evaluated whether flags and measures shall be as of now
 */
export async function openView(
  viewer: Viewer,
  code: string,
  asked: AskedScope,
  { evaluated = false } = {},
): Promise<Opened> {
  const taught = await requireCourse(viewer, 'look', code);
  const row = evaluated ? await ensureEvaluated(taught) : taught;
  const snapshot = await snapshotOf(row);
  const course = await snapshot.model();
  const items = await trayOf(await database(), viewer.userId, row.id);
  const tray = items.map((t) => t.enrolmentId);
  const scope = await scopeOf(viewer, course, asked, tray);
  const ribbon = await termRibbon(snapshot);
  return {
    row,
    snapshot,
    course,
    scope,
    people: await peopleOf(row, scope, tray),
    frame: { course: courseHead(row), scope, ribbon, tray, trayFrom: items.at(-1)?.source ?? null },
  };
}
