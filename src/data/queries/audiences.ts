import { asc, eq } from 'drizzle-orm';
import { readSelection } from '@/core/rules/selectionSchema';
import type { SavedAudience } from '@/core/people/savedAudience';
import type { Access } from '../database';
import { audiences, user } from '../schema';

/** A saved audience with its name, and who saved it. */
export interface NamedAudience extends SavedAudience {
  readonly id: number;
  readonly name: string;
  readonly by: string | null;
}

/** The saved audiences of a course, by name. */
export async function audiencesOf({ orm }: Access, courseId: number): Promise<NamedAudience[]> {
  const rows = await orm
    .select({ audience: audiences, by: user.name })
    .from(audiences)
    .leftJoin(user, eq(user.id, audiences.userId))
    .where(eq(audiences.courseId, courseId))
    .orderBy(asc(audiences.name), asc(audiences.id));
  return rows.map(({ audience: { id, name, where, added, removed }, by }) => ({
    id,
    name,
    by,
    where: readSelection(where),
    added,
    removed,
  }));
}
