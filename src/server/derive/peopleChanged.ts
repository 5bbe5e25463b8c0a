import { and, eq, inArray, isNull } from 'drizzle-orm';
import type { FileCounts } from '@/core/views/intake';
import type { Access } from '@/data/database';
import { courses, enrolments } from '@/data/schema';
import { setupChanged } from './setupChanged';

/**
 * Says in every other course of the people of a course that somebody may be called, or known by an address, otherwise
 * than before. To be called after the change itself: two who change the same people never wait for each other.
 */
export async function peopleChanged(access: Access, courseId: number): Promise<void> {
  const { orm } = access;
  const people = orm
    .select({ id: enrolments.personId })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  const theirs = await orm
    .selectDistinct({ id: enrolments.courseId })
    .from(enrolments)
    .innerJoin(courses, and(eq(courses.id, enrolments.courseId), isNull(courses.forImport)))
    .where(inArray(enrolments.personId, people));
  for (const { id } of theirs) if (id !== courseId) await setupChanged(access, id);
}

/** The same after an import, or after one was taken back: only if its files said anything new of people. */
export async function peopleImported(
  access: Access,
  courseId: number,
  files: readonly Pick<FileCounts, 'kind' | 'added' | 'changed'>[],
): Promise<void> {
  if (files.some((f) => f.kind === 'roster' && f.added + f.changed > 0))
    await peopleChanged(access, courseId);
}
