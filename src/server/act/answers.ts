import { and, eq, inArray } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { MOST_PUT_OFF_DAYS } from '@/core/acts/rounds';
import type { LocalDate } from '@/core/units';
import { acts, roundPositions } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireEnrolment, requireCourse, type Viewer } from '../access/viewer';
import { type Answer } from '@/core/acts/act';
import { openReasons } from '../snapshot/reasons';
import { snapshotOf } from '../snapshot/snapshot';
import { recordActs } from './acts';

async function answer(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  act: { readonly kind: Answer; readonly followUpOn?: LocalDate; readonly reason?: string },
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  await requireEnrolment(course, enrolmentId);
  const answers = (await openReasons(await snapshotOf(course), [enrolmentId])).get(enrolmentId) ?? [];
  const [id] = await recordActs(await database(), course, viewer, [{ enrolmentId, answers, ...act }]);
  return id!;
}

/** Puts a student off until a day after today. Returns the id of the act, for undoing it. */
export async function putOff(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  until: LocalDate,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const today = localDate(now(), course.zone);
  if (until <= today) throw invalid('Choose a day after today.');
  if (until > addDays(today, MOST_PUT_OFF_DAYS))
    throw invalid(`Choose a day within ${MOST_PUT_OFF_DAYS} days.`);
  return answer(viewer, code, enrolmentId, { kind: 'put off', followUpOn: until });
}

/** Marks a student as seen, with the reason. */
export function markSeen(viewer: Viewer, code: string, enrolmentId: number, reason: string): Promise<number> {
  if (reason.trim() === '') throw invalid('Say in a word why nothing more is needed.');
  return answer(viewer, code, enrolmentId, { kind: 'seen', reason: reason.trim() });
}

/** Undoes an answer of the viewer's own. */
export async function undoAnswer(viewer: Viewer, code: string, actId: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const gone = await orm
    .delete(acts)
    .where(
      and(
        eq(acts.id, actId),
        eq(acts.courseId, course.id),
        eq(acts.userId, viewer.userId),
        inArray(acts.kind, ['put off', 'seen']),
      ),
    )
    .returning({ id: acts.id });
  if (gone.length === 0) throw notFound('mark of yours');
}

export interface Position {
  readonly enrolmentId: number | null;
  readonly filter: string;
}

/** Keeps where the viewer is in the rounds of a course. */
export async function keepPosition(viewer: Viewer, code: string, position: Position): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  if (position.enrolmentId != null) await requireEnrolment(course, position.enrolmentId);
  const { orm } = await database();
  await orm
    .insert(roundPositions)
    .values({ userId: viewer.userId, courseId: course.id, ...position })
    .onConflictDoUpdate({ target: [roundPositions.userId, roundPositions.courseId], set: position });
}
