import { channel } from 'node:diagnostics_channel';
import { and, asc, eq, type SQL } from 'drizzle-orm';
import { holdsBroken } from '@/core/formats/brokenText';
import { ROLES, type Role } from '@/data/schema/auth';
import { courses, courseStaff, enrolments } from '@/data/schema';
import { auth } from './auth';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { forbidden, notFound, UseCaseError } from '../base/errors';
import { type Right, may } from '@/core/access/may';
import { now } from '../base/clock';

/** Who asks. Every use case takes one and checks it. */
export interface Viewer {
  readonly userId: string;
  readonly name: string;
  readonly role: Role;
  readonly personId: number | null;
}

/** Where it is told which right of a viewer is asked for; for the table of rights. */
export const RIGHT_ASKED = 'lantern:right';
const rightAsked = channel(RIGHT_ASKED);

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

/** Courses in which a viewer has a role that allows something, with what the condition adds. */
async function coursesWith(viewer: Viewer, right: Right, condition?: SQL): Promise<CourseRow[]> {
  const { orm } = await database();
  const rows = await orm
    .select({ course: courses, role: courseStaff.role, until: courseStaff.until })
    .from(courseStaff)
    .innerJoin(courses, eq(courses.id, courseStaff.courseId))
    .where(and(eq(courseStaff.userId, viewer.userId), condition))
    .orderBy(asc(courses.id));
  const at = now();
  return rows.flatMap(({ course, role, until }) => {
    const grant = { role, course: course.id, until: until?.getTime() ?? null };
    return may([grant], right, course.id, at) ? [course] : [];
  });
}

/** Whether a viewer may do something in a course now. */
export const mayIn = async (viewer: Viewer, right: Right, courseId: number): Promise<boolean> =>
  (await coursesWith(viewer, right, eq(courses.id, courseId))).length > 0;

/** The courses that a viewer may look at; those put aside last. */
export async function coursesOf(viewer: Viewer): Promise<CourseRow[]> {
  if (viewer.role === 'student') return [];
  const aside = (course: CourseRow) => Number(course.archivedAt != null);
  return (await coursesWith(viewer, 'look')).sort((a, b) => aside(a) - aside(b));
}

/**
 * The one question for access to a course: it comes back if the viewer may do that in it now. A course of others is
 * refused in the same words as one that does not exist.
 */
export async function requireCourse(viewer: Viewer, right: Right, code: string): Promise<CourseRow> {
  rightAsked.publish(right);
  if (viewer.role === 'student') throw forbidden();
  // An address can hold what no text in the database can.
  if (holdsBroken(code)) throw notFound('course of yours');
  const [found] = await coursesWith(viewer, right, eq(courses.code, code));
  if (!found) throw notFound('course of yours');
  return found;
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
  rightAsked.publish('own');
  if (viewer.role !== 'student' || viewer.personId == null) throw forbidden();
  return viewer.personId;
}
