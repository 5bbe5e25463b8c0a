import { eq } from 'drizzle-orm';
import { courses, user } from '@/data/schema';
import { ROLES } from '@/data/schema/auth';
import type { Access } from '@/data/database';
import { mayIn, type Viewer } from '../access/viewer';

/** Whoever a rule writes for, if they still teach the course; null if not: then it writes nothing. */
export async function ownerOf({ orm }: Access, userId: string, courseId: number): Promise<Viewer | null> {
  const [row] = await orm.select().from(user).where(eq(user.id, userId));
  const role = ROLES.find((r) => r === row?.role);
  if (!row || !role) return null;
  const viewer: Viewer = { userId, name: row.name, role, personId: row.personId ?? null };
  return (await mayIn(viewer, 'act', courseId)) ? viewer : null;
}

/** A course that runs; null if it is gone or was archived. */
export async function runningCourse({ orm }: Access, courseId: number) {
  const [row] = await orm.select().from(courses).where(eq(courses.id, courseId));
  return row?.archivedAt == null ? (row ?? null) : null;
}
