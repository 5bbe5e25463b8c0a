import { randomBytes } from 'node:crypto';
import { and, eq, sql } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import type { EnrolmentStatus } from '@/core/course/kinds';
import { SECOND_MS } from '@/core/units';
import { courses, enrolments } from '@/data/schema';
import { now } from '../../base/clock';
import { database } from '../../base/database';
import { idsIn } from '@/data/queries/idsIn';
import { setupChanged } from '../../derive/setupChanged';
import { forgetTries, JOIN_CODES, pauseBefore } from '../../access/signInTries';
import { notFound, tooMany, UseCaseError } from '../../base/errors';
import { requireStudent, type Viewer } from '../../access/viewer';
import { editCourse } from './change';
import { lockCourse } from '@/data/write/underLock';

/** Moves students to a section, or out of any; their time in and outside class is cut anew. */
export async function moveStudents(
  viewer: Viewer,
  code: string,
  ids: readonly number[],
  sectionId: number | null,
): Promise<number> {
  return editCourse(viewer, code, async ({ tx, course, model }) => {
    if (sectionId != null && !model.sections.some((s) => s.id === sectionId))
      throw notFound('section of this course');
    const moved = await tx.orm
      .update(enrolments)
      .set({ sectionId })
      .where(and(eq(enrolments.courseId, course.id), idsIn(enrolments.id, ids)))
      .returning({ id: enrolments.id });
    if (moved.length !== new Set(ids).size) throw notFound('student in this course');
    return { value: moved.length, recut: moved.map((m) => m.id) };
  });
}

/** Withdraws, archives or takes back students. Nothing of them is lost, so each can be undone. */
export async function setStatus(
  viewer: Viewer,
  code: string,
  ids: readonly number[],
  status: EnrolmentStatus,
): Promise<number> {
  return editCourse(viewer, code, async ({ tx, course, at }) => {
    const changed = await tx.orm
      .update(enrolments)
      .set({
        status,
        leftOn:
          status === 'withdrawn' ? localDate(at, course.zone) : status === 'active' ? null : sql`left_on`,
      })
      .where(and(eq(enrolments.courseId, course.id), idsIn(enrolments.id, ids)))
      .returning({ id: enrolments.id });
    if (changed.length !== new Set(ids).size) throw notFound('student in this course');
    return { value: changed.length };
  });
}

/** Letters and digits that cannot be taken for one another. */
const ALPHABET = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';

/** Makes a code by which students join by themselves, or takes it out of use. */
export async function setJoinCode(viewer: Viewer, code: string, on: boolean): Promise<string | null> {
  return editCourse(viewer, code, async ({ tx, course }) => {
    const joinCode = on ? [...randomBytes(8)].map((b) => ALPHABET[b % ALPHABET.length]).join('') : null;
    await tx.orm.update(courses).set({ joinCode }).where(eq(courses.id, course.id));
    return { value: joinCode };
  });
}

/**
 * Lets a student into the course of a code, once: who is in it already stays, and who was withdrawn or whose place was
 * closed comes back by their instructor only.
 */
export async function joinCourse(viewer: Viewer, typed: string): Promise<string> {
  const personId = requireStudent(viewer);
  const db = await database();
  const wait = await pauseBefore(db, `join ${viewer.userId}`, JOIN_CODES);
  if (wait > 0)
    throw tooMany(`Too many codes tried; wait ${Math.ceil(wait / SECOND_MS)} seconds and try again.`);
  const title = await db.transaction(async (tx) => {
    const [course] = await tx.orm
      .select()
      .from(courses)
      .where(eq(courses.joinCode, typed.trim().toUpperCase().replaceAll(/[\s-]/g, '')));
    if (!course || course.archivedAt)
      throw new UseCaseError('not found', 'No course has this code; ask your instructor for it.');
    await lockCourse(tx, course.id);
    const [known] = await tx.orm
      .select()
      .from(enrolments)
      .where(and(eq(enrolments.courseId, course.id), eq(enrolments.personId, personId)));
    if (known && known.status !== 'active')
      throw new UseCaseError('forbidden', 'Your place in this course was closed; ask your instructor.');
    await tx.orm
      .insert(enrolments)
      .values({ courseId: course.id, personId, status: 'active', joinedOn: localDate(now(), course.zone) })
      .onConflictDoUpdate({
        target: [enrolments.courseId, enrolments.personId],
        // Who joins lets themselves be written to.
        set: { contactHidden: false },
      });
    await setupChanged(tx, course.id);
    return course.title;
  });
  await forgetTries(db, `join ${viewer.userId}`);
  return title;
}

/** Accepts a course that somebody put the viewer into: those who teach it see their address from now on. */
export async function acceptCourse(viewer: Viewer, code: string): Promise<void> {
  const personId = requireStudent(viewer);
  const db = await database();
  await db.transaction(async (tx) => {
    const [course] = await tx.orm.select({ id: courses.id }).from(courses).where(eq(courses.code, code));
    const [place] = course
      ? await tx.orm
          .update(enrolments)
          .set({ contactHidden: false })
          .where(and(eq(enrolments.courseId, course.id), eq(enrolments.personId, personId)))
          .returning({ id: enrolments.id })
      : [];
    if (!course || !place) throw notFound('course of yours');
    await setupChanged(tx, course.id);
  });
}
