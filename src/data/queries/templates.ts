import { and, asc, eq, or } from 'drizzle-orm';
import { docFault, readDoc } from '@/core/messages/docSchema';
import { conditionsIn } from '@/core/messages/doc';
import { faultsIn } from '@/core/people/savedAudience';
import type { ClassAbout } from '@/core/people/traitAbout';
import type { SavedTemplate } from '@/core/views/compose';
import type { Access } from '../database';
import { templates } from '../schema';

/** The templates that somebody can begin with in a course: their own, and those shared. */
export async function templatesOf(
  { orm }: Access,
  courseId: number,
  userId: string,
  course: ClassAbout,
): Promise<SavedTemplate[]> {
  const rows = await orm
    .select()
    .from(templates)
    .where(
      and(eq(templates.courseId, courseId), or(eq(templates.shared, true), eq(templates.userId, userId))),
    )
    .orderBy(asc(templates.name), asc(templates.id));
  return rows.map(({ id, name, about, subject, shared, userId: owner, doc }) => {
    const read = docFault(doc) == null ? readDoc(doc) : null;
    const fault = read
      ? (conditionsIn(read).flatMap((where) => faultsIn(where, course))[0] ?? null)
      : docFault(doc)!;
    return { id, name, about, subject, shared, own: owner === userId, doc: fault ? null : read, fault };
  });
}
