import { and, eq } from 'drizzle-orm';
import type { Access } from '../database';
import { enrolments, persons } from '../schema';

/**
 * The address of a student that those who teach a course may see: none while it is hidden, because somebody put them into
 * the course who knew only their id and name.
 */
export const shownEmail = (
  person: { readonly email: string | null },
  place: { readonly contactHidden: boolean },
): string | null => (place.contactHidden ? null : person.email);

/** Ids of students of a course whose address is hidden. */
export async function hiddenContacts({ orm }: Access, courseId: number): Promise<Set<string>> {
  const rows = await orm
    .select({ id: persons.externalId })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(and(eq(enrolments.courseId, courseId), eq(enrolments.contactHidden, true)));
  return new Set(rows.map((r) => r.id));
}
