import { and, between, eq, isNotNull, isNull, ne, notInArray, or } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { MOST_PUT_OFF_DAYS } from '@/core/acts/rounds';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { OPEN_FOLLOW_UP } from '@/data/queries/openFollowUp';
import { acts, agreements } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';

/** What a message closes is closed within this time of its being written. */
const SAME_MOMENT_MS = 10_000;

/** A day to look again: not gone by, and not further off than a term. */
export function checkFollowUp(course: CourseRow, on: LocalDate | null | undefined): void {
  if (on == null) return;
  const today = localDate(now(), course.zone);
  if (on <= today) throw invalid('Choose a day after today to look again.');
  if (on > addDays(today, MOST_PUT_OFF_DAYS)) throw invalid(`Look again within ${MOST_PUT_OFF_DAYS} days.`);
}

/**
 * Closes the follow-ups that the viewer has open with some students: what they do now, with a day of its own, stands for
 * those before it. What was agreed is looked at on its day all the same.
 */
export async function supersede(
  { orm }: Access,
  { userId }: Pick<Viewer, 'userId'>,
  enrolmentIds: readonly number[],
  but: readonly number[],
): Promise<void> {
  if (enrolmentIds.length === 0) return;
  const agreed = orm.select({ id: agreements.noteId }).from(agreements);
  await orm
    .update(acts)
    .set({ followedUpAt: nowDate(), followedUpBy: userId })
    .where(
      and(
        OPEN_FOLLOW_UP,
        eq(acts.userId, userId),
        idsIn(acts.enrolmentId, [...enrolmentIds]),
        but.length > 0 ? notInArray(acts.id, [...but]) : undefined,
        or(isNull(acts.noteId), notInArray(acts.noteId, agreed)),
      ),
    );
}

/** Opens again what a message closed when it was written, which is called back now. */
export async function openAgain(
  { orm }: Access,
  { userId }: Pick<Viewer, 'userId'>,
  enrolmentIds: readonly number[],
  writtenAt: Date,
): Promise<void> {
  await orm
    .update(acts)
    .set({ followedUpAt: null, followedUpBy: null })
    .where(
      and(
        isNotNull(acts.followUpOn),
        eq(acts.followedUpBy, userId),
        idsIn(acts.enrolmentId, [...enrolmentIds]),
        between(acts.followedUpAt, writtenAt, new Date(writtenAt.getTime() + SAME_MOMENT_MS)),
      ),
    );
}

/** Closes a follow-up, or opens it again. What was done about it stays in the history. */
export async function closeFollowUp(
  viewer: Viewer,
  code: string,
  actId: number,
  closed = true,
): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const done = await orm
    .update(acts)
    .set(
      closed
        ? { followedUpAt: nowDate(), followedUpBy: viewer.userId }
        : { followedUpAt: null, followedUpBy: null },
    )
    .where(and(eq(acts.id, actId), eq(acts.courseId, course.id), isNotNull(acts.followUpOn)))
    .returning({ id: acts.id });
  if (done.length === 0) throw notFound('follow-up in this course');
}

/** Sets another day to look again. */
export async function moveFollowUp(
  viewer: Viewer,
  code: string,
  actId: number,
  on: LocalDate,
): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  checkFollowUp(course, on);
  const { orm } = await database();
  const done = await orm
    .update(acts)
    .set({ followUpOn: on, followedUpAt: null, followedUpBy: null })
    .where(and(eq(acts.id, actId), eq(acts.courseId, course.id), ne(acts.kind, 'put off')))
    .returning({ id: acts.id });
  if (done.length === 0) throw notFound('follow-up in this course');
}
