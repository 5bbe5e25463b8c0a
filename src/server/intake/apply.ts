import type { Kept } from './kinds';
import type { RecordOf } from '@/core/course/records';
import { type Changes } from '@/core/formats/classify';
import type { Instant } from '@/core/units';
import { type Access } from '@/data/database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
import { startHistory } from '../derive/evaluate';
import { queueEvaluation } from '../derive/outdated';
import { reviseSetup } from '../derive/setupChanged';
import { hasEvents } from '@/data/queries/classRecord';
import { idsOfFiles, type FileIds } from '@/data/queries/fileIds';
import type { ImportPlan } from './plan';
import { KINDS, ON_STUDENTS, SET_UP } from './kinds';
import { copyEvents } from './kinds/events';
import { type Place, type IntakeKind } from './kinds/kind';

/** Events written together: few enough that their text is small beside them. */
const COPIED = 5000;

const changesAnything = (plan: ImportPlan): boolean =>
  Object.values(plan).some((c?: Changes<unknown>) => c && c.added.length + c.changed.length > 0);

/**
 * Writes what a plan says, and brings everything derived up to date, in a transaction that holds the course. Flags are
 * evaluated after it, through the queue.
 *
 * @param options.importId the import that new events carry
 */
export async function applyImport(
  access: Access,
  course: CourseModel,
  plan: ImportPlan,
  { importId = null }: { importId?: number | null } = {},
): Promise<void> {
  if (!changesAnything(plan)) return;
  const first =
    plan.events != null && plan.events.added.length > 0 && !(await hasEvents(access, course.row.id));
  const setUp = await writePlan(access, course, plan);
  const added = plan.events?.added ?? [];
  for (let from = 0; from < added.length; from += COPIED) {
    await copyEvents(access, setUp, added.slice(from, from + COPIED), importId);
  }
  if (plan.events || plan.roster || plan.activities)
    await deriveActivity(access, setUp.course, affectedBy(plan, setUp.ids));
  if (first) await startHistory(access, course.row.id);
  await queueEvaluation(access, course.row.id);
}

/** Writes all of a plan but its events: the set-up of the course, its gradebook and what hangs on students. */
export async function writePlan(access: Access, course: CourseModel, plan: ImportPlan): Promise<Place> {
  const courseId = course.row.id;
  const write = async <K extends Kept>(kind: K, place: Place) => {
    const changes = plan[kind] as Changes<RecordOf[K]> | undefined;
    const taken: IntakeKind<K> = KINDS[kind];
    if (changes) await taken.write(access, place, changes);
  };
  // What the set-up refers to it finds by itself: the ids of what is new are known only after it.
  const before = { course, ids: { enrolmentOf: new Map(), activityOf: new Map() } as FileIds };
  for (const kind of SET_UP) await write(kind, before);
  if (plan.roster || plan.activities || plan.outcomes) await reviseSetup(access, courseId);
  const fresh = await loadCourseModel(access, courseId);
  const place = { course: fresh, ids: await idsOfFiles(access, courseId, fresh.activities) };
  await write('items', place);
  for (const kind of ON_STUDENTS) await write(kind, place);
  return place;
}

/** Whose derived rows a plan makes outdated, and from when on; null for everybody. */
export function affectedBy(plan: ImportPlan, ids: FileIds): Map<number, Instant> | null {
  // A changed kind moves typical dwells.
  if ((plan.activities?.changed.length ?? 0) > 0) return null;
  const affected = new Map<number, Instant>();
  for (const { value } of plan.events?.added ?? []) {
    const id = ids.enrolmentOf.get(value.student)!;
    affected.set(id, Math.min(value.at, affected.get(id) ?? Infinity));
  }
  // A changed section moves time between in and outside class.
  for (const { value } of plan.roster?.changed ?? []) affected.set(ids.enrolmentOf.get(value.id)!, -Infinity);
  return affected;
}
