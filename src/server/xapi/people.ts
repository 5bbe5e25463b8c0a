import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { written, type Changes } from '@/core/formats/classify';
import type { ActivityRecord, RosterRecord } from '@/core/course/records';
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

type KeptNames = Map<number, { readonly version: string; readonly names: Names }>;
/** On the global object: route handlers load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternNames?: WeakMap<object, KeptNames> };

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
  const kept = (holder.lanternNames ??= new WeakMap());
  let ofOwner = kept.get(owner);
  if (!ofOwner) kept.set(owner, (ofOwner = new Map()));
  const known = ofOwner.get(courseId);
  if (known?.version === version) return known.names;
  const names = await readNames(access, courseId);
  ofOwner.set(courseId, { version, names });
  return names;
}

/** What is about to change in a course: students and activities that a file adds or changes. */
export interface NamesToCome {
  readonly roster?: Pick<Changes<RosterRecord>, 'added' | 'changed'>;
  readonly activities?: Pick<Changes<ActivityRecord>, 'added' | 'changed'>;
  /** The ids of those that are made already, where nobody sees them. */
  readonly ids?: {
    readonly enrolmentOf: ReadonlyMap<string, number>;
    readonly activityOf: ReadonlyMap<string, number>;
  };
}

/** Stands for the place of somebody, or the number of an activity, that a file is about to bring. */
const TO_COME = 0;

/**
 * Reads the names of a course as they stand, in whatever transaction.
 *
 * @param toCome what shall count as if it were there
 */
export async function readNames({ orm }: Access, courseId: number, toCome: NamesToCome = {}): Promise<Names> {
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
  const stored = new Map(people.map((p) => [p.id, p]));
  for (const value of written(toCome.roster)) {
    const known = stored.get(value.id);
    if (known) known.email = value.email;
    else
      people.push({
        enrolmentId: toCome.ids?.enrolmentOf.get(value.id) ?? TO_COME,
        id: value.id,
        email: value.email,
      });
  }
  const meant = new Map<string, CourseActivity>(
    works.map((w) => [w.externalId, { id: w.externalId, kind: w.kind, points: w.points }]),
  );
  for (const value of written(toCome.activities))
    meant.set(value.id, { id: value.id, kind: value.kind, points: value.points });
  const enrolmentOf = new Map(people.map((p) => [p.id, p.enrolmentId]));
  const aliasOf = await aliasesOf({ orm }, courseId);
  const findPerson = personFinder(people, aliasOf, sha1);
  const activityIds = new Map(works.map((w) => [w.externalId, w.id]));
  return {
    enrolmentOf: (person) => enrolmentOf.get(findPerson(person) ?? '') ?? null,
    find: activityFinder([...meant.values()]),
    activityIdOf: (id) =>
      id == null
        ? null
        : (activityIds.get(id) ?? toCome.ids?.activityOf.get(id) ?? (meant.has(id) ? TO_COME : null)),
  };
}
