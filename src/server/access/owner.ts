import { eq } from 'drizzle-orm';
import type { Right } from '@/core/access/may';
import { courses, user } from '@/data/schema';
import { ROLES } from '@/data/schema/auth';
import type { Access } from '@/data/database';
import { mayIn, type Viewer } from './viewer';

/** Whoever something goes on for unasked, if they still may do that in the course; null if not: then it stops. */
export async function ownerOf(
  { orm }: Access,
  userId: string,
  courseId: number,
  right: Right = 'act',
): Promise<Viewer | null> {
  const [row] = await orm.select().from(user).where(eq(user.id, userId));
  const role = ROLES.find((r) => r === row?.role);
  if (!row || !role) return null;
  const viewer: Viewer = { userId, name: row.name, role, personId: row.personId ?? null };
  return (await mayIn(viewer, right, courseId)) ? viewer : null;
}

/** A course that runs; null if it is gone or was archived. */
export async function runningCourse({ orm }: Access, courseId: number) {
  const [row] = await orm.select().from(courses).where(eq(courses.id, courseId));
  return row?.archivedAt == null ? (row ?? null) : null;
}
