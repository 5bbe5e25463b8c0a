import { and, asc, eq, inArray } from 'drizzle-orm';
import { compareRows } from '@/core/tables/order';
import { database } from '../base/database';
import { enrolments, persons, sections } from '@/data/schema';
import type { RosterEntry } from '@/core/views/rosterEntry';
import { shownEmail } from '@/data/queries/shownEmail';

/** A person's name as it is read out. */
export const fullName = (p: { given: string; family: string }): string => `${p.given} ${p.family}`;

/** People of a course, by family name; only the given enrolments if there are any. */
export async function roster(courseId: number, only?: readonly number[]): Promise<RosterEntry[]> {
  if (only?.length === 0) return [];
  const { orm } = await database();
  const rows = await orm
    .select({ enrolment: enrolments, person: persons, section: sections.name })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .leftJoin(sections, eq(sections.id, enrolments.sectionId))
    .where(and(eq(enrolments.courseId, courseId), only ? inArray(enrolments.id, [...only]) : undefined))
    .orderBy(asc(enrolments.id));
  const people = rows.map(({ enrolment, person, section }) => ({
    enrolmentId: enrolment.id,
    personId: person.id,
    studentId: person.externalId,
    given: person.given,
    family: person.family,
    name: fullName(person),
    email: shownEmail(person, enrolment),
    section,
    sectionId: enrolment.sectionId,
    status: enrolment.status,
    joined: enrolment.joinedOn,
    left: enrolment.leftOn,
  }));
  // Databases differ in how they order letters with accents; people do not.
  return people.sort(compareRows((p) => `${p.family}\u0000${p.given}`, false));
}

/** The sections of a course by their names, in the order in which they were made. */
export async function sectionNames(courseId: number): Promise<{ id: number; name: string }[]> {
  const { orm } = await database();
  return orm
    .select({ id: sections.id, name: sections.name })
    .from(sections)
    .where(eq(sections.courseId, courseId))
    .orderBy(asc(sections.id));
}
