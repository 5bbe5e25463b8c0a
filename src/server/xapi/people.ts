import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { activityFinder, type CourseActivity } from '@/core/formats/xapi/records';
import { personFinder } from '@/core/formats/xapi/person';
import type { Access } from '@/data/database';
import { activities, aliases, courses, enrolments, persons } from '@/data/schema';

/** SHA-1 in hexadecimal, as statements name addresses by. */
export const sha1 = (text: string): string => createHash('sha1').update(text).digest('hex');

/** Who and what the names of a source mean in a course. */
export interface Names {
  /** The enrolment of a person key (see `personKey`); null if nobody is known by it. */
  readonly enrolmentOf: (person: string) => number | null;
  readonly find: (iri: string) => CourseActivity | null;
  readonly activityIdOf: (externalId: string | null) => number | null;
}

/** Names that somebody said belong to a student of the course, with the student's id. */
export async function aliasesOf(
  { orm }: Pick<Access, 'orm'>,
  courseId: number,
): Promise<Map<string, string>> {
  const rows = await orm
    .select({ value: aliases.value, id: persons.externalId })
    .from(aliases)
    .innerJoin(persons, eq(persons.id, aliases.personId))
    .where(eq(aliases.courseId, courseId));
  return new Map(rows.map((r) => [r.value, r.id]));
}

const kept = new WeakMap<object, Map<number, { readonly version: string; readonly names: Names }>>();

/**
 * The names of a course; the same again until its set-up changes. Not for a transaction that itself changes the set-up:
 * were it taken back, what it had read would be kept for a revision that means something else the next time.
 */
export async function namesOf(access: Access, courseId: number, owner: object): Promise<Names> {
  const [course] = await access.orm
    .select({ setupRev: courses.setupRev })
    .from(courses)
    .where(eq(courses.id, courseId));
  const version = String(course?.setupRev);
  let ofOwner = kept.get(owner);
  if (!ofOwner) kept.set(owner, (ofOwner = new Map()));
  const known = ofOwner.get(courseId);
  if (known?.version === version) return known.names;
  const names = await readNames(access, courseId);
  ofOwner.set(courseId, { version, names });
  return names;
}

/** Reads the names of a course as they stand, in whatever transaction. */
export async function readNames({ orm }: Access, courseId: number): Promise<Names> {
  const people = await orm
    .select({
      enrolmentId: enrolments.id,
      id: persons.externalId,
      email: persons.email,
    })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, courseId));
  const works = await orm.select().from(activities).where(eq(activities.courseId, courseId));
  const enrolmentOf = new Map(people.map((p) => [p.id, p.enrolmentId]));
  const aliasOf = await aliasesOf({ orm }, courseId);
  const findPerson = personFinder(people, aliasOf, sha1);
  const activityIds = new Map(works.map((w) => [w.externalId, w.id]));
  return {
    enrolmentOf: (person) => enrolmentOf.get(findPerson(person) ?? '') ?? null,
    find: activityFinder(works.map((w) => ({ id: w.externalId, kind: w.kind, points: w.points }))),
    activityIdOf: (id) => (id == null ? null : (activityIds.get(id) ?? null)),
  };
}
