import { and, eq, inArray, notInArray, sql } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { turn } from '@/data/turn';
import { courses, courseStaff, enrolments, persons, units } from '@/data/schema';

/** Ids looked up a statement. */
const LOOK_UP = 5000;

const coursesOf = ({ orm }: Pick<Access, 'orm'>, userId: string) =>
  orm.select({ id: courseStaff.courseId }).from(courseStaff).where(eq(courseStaff.userId, userId));

/**
 * The people among those of some ids that a course of others relies on: who they are is not this user's to change.
 *
 * @param userId null is the command line: whoever runs the installation answers for all people
 * @param externalIds as files name people
 */
export async function peopleOfOthers(
  access: Pick<Access, 'orm'>,
  userId: string | null,
  externalIds: readonly string[],
): Promise<Map<string, typeof persons.$inferSelect>> {
  if (userId == null || externalIds.length === 0) return new Map();
  const found = new Map<string, typeof persons.$inferSelect>();
  for (let i = 0; i < externalIds.length; i += LOOK_UP) {
    const rows = await access.orm
      .select({ person: persons })
      .from(persons)
      .innerJoin(enrolments, eq(enrolments.personId, persons.id))
      .where(
        and(
          sql`${persons.externalId} = any(${sql.param(externalIds.slice(i, i + LOOK_UP))}::text[])`,
          notInArray(enrolments.courseId, coursesOf(access, userId)),
          // Nobody relies on what is still coming in.
          sql`not exists (select 1 from ${courses} c where c.id = ${enrolments.courseId} and c.for_import is not null)`,
        ),
      );
    for (const { person } of rows) found.set(person.externalId, person);
    await turn();
  }
  return found;
}

/** Whether courses of others belong to a unit, or to one below it. */
export async function unitOfOthers(
  access: Pick<Access, 'orm'>,
  userId: string,
  unitId: number,
): Promise<boolean> {
  const all = await access.orm.select({ id: units.id, parentId: units.parentId }).from(units);
  const below = new Set([unitId]);
  for (let grown = true; grown;) {
    grown = false;
    for (const { id, parentId } of all) {
      if (parentId == null || !below.has(parentId) || below.has(id)) continue;
      below.add(id);
      grown = true;
    }
  }
  const [other] = await access.orm
    .select({ id: courses.id })
    .from(courses)
    .where(and(inArray(courses.unitId, [...below]), notInArray(courses.id, coursesOf(access, userId))))
    .limit(1);
  return other !== undefined;
}
