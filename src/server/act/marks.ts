import { and, desc, eq, gte } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import type { Mark, MarkAction } from '@/core/flags/rounds';
import { ROUND_DAYS } from '@/core/flags/rounds';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { roundMarks, roundPositions, user } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '../snapshot/courseModel';
import { invalid, notFound } from '../base/errors';
import { activityTitles, openReasons } from '../look/flags';
import { requireEnrolment, requireTaught, type Viewer } from '../access/viewer';
import type { MarkView } from '@/core/views/mark';

/** The furthest a student can be put off: a term. */
const MOST_PUT_OFF_DAYS = 120;

/** The latest mark of each enrolment of a course that can still matter. */
export async function latestMarks(course: CourseRow, today: LocalDate): Promise<Map<number, MarkView>> {
  const { orm } = await database();
  const rows = await orm
    .select({ mark: roundMarks, by: user.name })
    .from(roundMarks)
    .innerJoin(user, eq(user.id, roundMarks.userId))
    .where(
      and(
        eq(roundMarks.courseId, course.id),
        gte(roundMarks.on, addDays(today, -Math.max(ROUND_DAYS, MOST_PUT_OFF_DAYS))),
      ),
    )
    .orderBy(desc(roundMarks.id));
  const latest = new Map<number, MarkView>();
  for (const { mark, by } of rows)
    if (!latest.has(mark.enrolmentId)) latest.set(mark.enrolmentId, { ...mark, by });
  return latest;
}

/** An answer to the open flags of a student. */
export interface NewMark {
  readonly enrolmentId: number;
  readonly covered: Mark['covered'];
  readonly action: MarkAction;
  readonly until?: LocalDate;
  readonly reason?: string;
}

/** Records answers to students' open flags, inside the transaction of the act itself. Returns ids in the same order. */
export async function recordMarks(
  access: Access,
  course: CourseRow,
  viewer: Viewer,
  marks: readonly NewMark[],
): Promise<number[]> {
  const rows = await insertMany(
    access,
    roundMarks,
    marks.map((m) => ({
      courseId: course.id,
      enrolmentId: m.enrolmentId,
      userId: viewer.userId,
      action: m.action,
      on: localDate(now(), course.zone),
      until: m.until ?? null,
      reason: m.reason ?? null,
      covered: m.covered.map(({ kind, level }) => ({ kind, level })),
      at: nowDate(),
    })),
    { returning: [roundMarks.id] },
  );
  return rows.map((r) => Number(r.id));
}

async function mark(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  action: { action: MarkAction; until?: LocalDate; reason?: string },
): Promise<number> {
  const course = await requireTaught(viewer, code);
  await requireEnrolment(course, enrolmentId);
  const reasons = await openReasons(course.id, await activityTitles(course.id), [enrolmentId]);
  const covered = reasons.get(enrolmentId) ?? [];
  const [id] = await recordMarks(await database(), course, viewer, [{ enrolmentId, covered, ...action }]);
  return id!;
}

/** Puts a student off until a day after today. Returns the id of the mark, for undoing it. */
export async function putOff(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  until: LocalDate,
): Promise<number> {
  const course = await requireTaught(viewer, code);
  const today = localDate(now(), course.zone);
  if (until <= today) throw invalid('Choose a day after today.');
  if (until > addDays(today, MOST_PUT_OFF_DAYS))
    throw invalid(`Choose a day within ${MOST_PUT_OFF_DAYS} days.`);
  return mark(viewer, code, enrolmentId, { action: 'put off', until });
}

/** Marks a student as seen, with the reason. */
export function markSeen(viewer: Viewer, code: string, enrolmentId: number, reason: string): Promise<number> {
  if (reason.trim() === '') throw invalid('Say in a word why nothing more is needed.');
  return mark(viewer, code, enrolmentId, { action: 'seen', reason: reason.trim() });
}

/** Takes a mark of the viewer's own back. */
export async function undoMark(viewer: Viewer, code: string, markId: number): Promise<void> {
  const course = await requireTaught(viewer, code);
  const { orm } = await database();
  const gone = await orm
    .delete(roundMarks)
    .where(
      and(
        eq(roundMarks.id, markId),
        eq(roundMarks.courseId, course.id),
        eq(roundMarks.userId, viewer.userId),
      ),
    )
    .returning({ id: roundMarks.id });
  if (gone.length === 0) throw notFound('mark of yours');
}

export interface Position {
  readonly enrolmentId: number | null;
  readonly filter: string;
}

/** Where the viewer was in the rounds of a course. */
export async function roundPosition(viewer: Viewer, course: CourseRow): Promise<Position | null> {
  const { orm } = await database();
  const [row] = await orm
    .select({ enrolmentId: roundPositions.enrolmentId, filter: roundPositions.filter })
    .from(roundPositions)
    .where(and(eq(roundPositions.userId, viewer.userId), eq(roundPositions.courseId, course.id)));
  return row ?? null;
}

/** Keeps where the viewer is in the rounds of a course. */
export async function keepPosition(viewer: Viewer, code: string, position: Position): Promise<void> {
  const course = await requireTaught(viewer, code);
  if (position.enrolmentId != null) await requireEnrolment(course, position.enrolmentId);
  const { orm } = await database();
  await orm
    .insert(roundPositions)
    .values({ userId: viewer.userId, courseId: course.id, ...position })
    .onConflictDoUpdate({ target: [roundPositions.userId, roundPositions.courseId], set: position });
}
