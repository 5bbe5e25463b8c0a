import { and, asc, eq } from 'drizzle-orm';
import { holdsBroken } from '@/core/formats/brokenText';
import { ROLES, type Role } from '@/data/schema/auth';
import { courses, courseStaff, enrolments } from '@/data/schema';
import { auth } from './auth';
import { database } from '../base/database';
import type { CourseRow } from '../snapshot/courseModel';
import { forbidden, notFound, UseCaseError } from '../base/errors';

/** Who asks. Every use case takes one and checks it. */
export interface Viewer {
  readonly userId: string;
  readonly name: string;
  readonly role: Role;
  readonly personId: number | null;
}

/** The signed-in user of a request, or null. */
export async function viewerOf(headers: Headers): Promise<Viewer | null> {
  const found = await (await auth()).api.getSession({ headers });
  if (!found) return null;
  // The library reads session and user anew each time: neither outlives a change of role.
  const { id, name, role: asked, personId } = found.user;
  const role = ROLES.find((r) => r === asked);
  if (!role) return null;
  return { userId: id, name, role, personId: personId ?? null };
}

/** The same, refusing who is not signed in. */
export async function requireViewer(headers: Headers): Promise<Viewer> {
  const viewer = await viewerOf(headers);
  if (!viewer) throw new UseCaseError('signed out', 'Sign in to go on.');
  return viewer;
}

/** The courses a viewer teaches, by code. */
export async function taughtCourses(viewer: Viewer): Promise<CourseRow[]> {
  if (viewer.role !== 'instructor') return [];
  const { orm } = await database();
  const rows = await orm
    .select({ course: courses })
    .from(courseStaff)
    .innerJoin(courses, eq(courses.id, courseStaff.courseId))
    .where(eq(courseStaff.userId, viewer.userId))
    .orderBy(asc(courses.id));
  // Courses put aside stand last.
  const aside = (r: (typeof rows)[number]) => Number(r.course.archivedAt != null);
  return rows.sort((a, b) => aside(a) - aside(b)).map((r) => r.course);
}

/** A course that the viewer teaches. A course of others is refused in the same words as one that does not exist. */
export async function requireTaught(viewer: Viewer, code: string): Promise<CourseRow> {
  if (viewer.role !== 'instructor') throw forbidden();
  // An address can hold what no text in the database can.
  if (holdsBroken(code)) throw notFound('course of yours');
  const { orm } = await database();
  const [row] = await orm
    .select({ course: courses })
    .from(courses)
    .innerJoin(courseStaff, and(eq(courseStaff.courseId, courses.id), eq(courseStaff.userId, viewer.userId)))
    .where(eq(courses.code, code));
  if (!row) throw notFound('course of yours');
  return row.course;
}

/** Refuses unless the enrolment belongs to the course. */
export async function requireEnrolment(course: CourseRow, enrolmentId: number) {
  const { orm } = await database();
  const [row] = await orm
    .select()
    .from(enrolments)
    .where(and(eq(enrolments.id, enrolmentId), eq(enrolments.courseId, course.id)));
  if (!row) throw notFound('student in this course');
  return row;
}

/** The person a student account belongs to. */
export function requireStudent(viewer: Viewer): number {
  if (viewer.role !== 'student' || viewer.personId == null) throw forbidden();
  return viewer.personId;
}
