import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import { activities, courses, enrolments, events, imports, persons, statements, user } from '@/data/schema';
import { turn } from '@/data/turn';
import { nowDate } from '../base/clock';
import type { CourseModel } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { queueSweep } from '../derive/outdated';
import { nextVersion, removePrepared } from '@/data/write/versions';
import { UseCaseError } from '../base/errors';
import type { FileIds } from '@/data/queries/fileIds';
import type { ImportPlan } from './plan';

/** An import on its way in: nobody sees anything of it. */
export interface Arrival {
  readonly importId: number;
  readonly courseId: number;
  /** The course that holds its new people and activities until they are in. */
  readonly besideId: number;
  /** The version of derived rows that it prepares. */
  readonly version: number;
}

/** How long an import whose process is not heard of counts as on its way. */
export const HELD_MS = 20_000;
/** How often it lets itself be heard of. */
export const HEARD_EVERY_MS = 4000;
const held = sql`clock_timestamp() + ${HELD_MS} * interval '1 millisecond'`;
const dead = sql`${imports.arrivingUntil} < clock_timestamp()`;

/** Says that every import on its way is dead: whoever begins to work with an embedded database is alone with it. */
export async function noneArriving({ orm }: Access): Promise<void> {
  await orm
    .update(imports)
    .set({ arrivingUntil: sql`clock_timestamp() - interval '1 second'` })
    .where(isNotNull(imports.arrivingUntil));
}

/** Begins an import into a course, in a transaction that holds it. There is one at a time. */
export async function beginArrival(
  access: Access,
  courseId: number,
  { userId, jobId }: { readonly userId: string | null; readonly jobId: string | null },
): Promise<Arrival> {
  const { orm } = access;
  const [other] = await orm
    .select({ id: imports.id })
    .from(imports)
    .where(and(eq(imports.courseId, courseId), isNotNull(imports.arrivingUntil)));
  if (other)
    throw new UseCaseError(
      'conflict',
      'Another import into this course is under way. Nothing was changed; try again once it has ended.',
    );
  const version = await nextVersion(access);
  const [made] = await orm
    .insert(imports)
    .values({ courseId, userId, jobId, at: nowDate(), files: [], arrivingUntil: held, version })
    .returning({ id: imports.id });
  const importId = made!.id;
  const [row] = await orm.select().from(courses).where(eq(courses.id, courseId));
  const { id: _, joinCode: __, unitId: ___, ...like } = row!;
  const [beside] = await orm
    .insert(courses)
    .values({ ...like, code: `~beside ${importId}`, forImport: importId })
    .returning({ id: courses.id });
  // Should this process end, another clears up.
  await queueSweep(access, courseId, 2 * HELD_MS);
  return { importId, courseId, besideId: beside!.id, version };
}

/** Says that an import is still on its way; an error if it no longer is, since others took it for dead. */
export async function stillArriving({ orm }: Access, { importId }: Arrival): Promise<void> {
  const [row] = await orm
    .update(imports)
    .set({ arrivingUntil: held })
    .where(and(eq(imports.id, importId), isNotNull(imports.arrivingUntil)))
    .returning({ id: imports.id });
  if (!row) throw new Error('the import was taken for dead');
}

/** Rows a statement. */
const CHUNK = 1000;

/** Makes the people and activities that a plan adds, where nobody sees them. Returns their ids. */
export async function makeBeside(
  access: Access,
  { besideId }: Arrival,
  course: CourseModel,
  plan: ImportPlan,
): Promise<FileIds> {
  const { orm } = access;
  const enrolmentOf = new Map<string, number>();
  const activityOf = new Map<string, number>();
  const people = plan.roster?.added ?? [];
  for (let i = 0; i < people.length; i += CHUNK) {
    const some = people.slice(i, i + CHUNK).map((p) => p.value);
    await orm
      .insert(persons)
      .values(some.map(({ id, given, family, email }) => ({ externalId: id, given, family, email })))
      .onConflictDoNothing();
    const named = await orm
      .select({ id: persons.id, external: persons.externalId })
      .from(persons)
      .where(
        inArray(
          persons.externalId,
          some.map((p) => p.id),
        ),
      );
    const externalOf = new Map(named.map((n) => [n.id, n.external]));
    const places = await orm
      .insert(enrolments)
      .values(named.map((n) => ({ courseId: besideId, personId: n.id })))
      .returning({ id: enrolments.id, personId: enrolments.personId });
    for (const place of places) enrolmentOf.set(externalOf.get(place.personId)!, place.id);
  }
  const works = plan.activities?.added ?? [];
  for (let i = 0; i < works.length; i += CHUNK) {
    const made = await orm
      .insert(activities)
      .values(
        works.slice(i, i + CHUNK).map(({ value: { id, title, kind } }, j) => ({
          courseId: besideId,
          externalId: id,
          title,
          kind,
          position: course.activities.length + i + j,
        })),
      )
      .returning({ id: activities.id, external: activities.externalId });
    for (const work of made) activityOf.set(work.external, work.id);
  }
  return { enrolmentOf, activityOf };
}

/** Brings the people and activities of an import into their course, in the transaction that ends it. */
export async function moveIn({ orm }: Access, { besideId, courseId }: Arrival): Promise<void> {
  await orm.update(enrolments).set({ courseId }).where(eq(enrolments.courseId, besideId));
  await orm.update(activities).set({ courseId }).where(eq(activities.courseId, besideId));
  await orm.delete(courses).where(eq(courses.id, besideId));
}

/** Rows removed together: few enough that nobody waits for it. */
const REMOVED = 2000;

/** Removes all of an import that will not come in, a few rows at a time. */
export async function dropArrival(db: Database, importId: number): Promise<void> {
  const { orm } = db;
  const [row] = await orm
    .select()
    .from(imports)
    .where(and(eq(imports.id, importId), isNotNull(imports.arrivingUntil)));
  if (!row) return;
  const { courseId, version } = row;
  for (const table of [events, statements]) {
    const own = and(eq(table.courseId, courseId), eq(table.importId, importId));
    const some = sql`ctid = any(array(select ctid from ${table} where ${own} limit ${REMOVED}))`;
    for (let gone = REMOVED; gone > 0;) {
      gone = (await orm.delete(table).where(some).returning({ courseId: table.courseId })).length;
      await turn();
    }
  }
  if (version != null) {
    const places = await orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.courseId, courseId));
    for (let i = 0; i < places.length; i += 20) {
      const some = places.slice(i, i + 20).map((p) => p.id);
      await removePrepared(db, some, version);
      await turn();
    }
  }
  await db.transaction(async (tx) => {
    // A course that only this import would have made is among them.
    const hidden = tx.orm.select({ id: courses.id }).from(courses).where(eq(courses.forImport, importId));
    const made = await tx.orm
      .select({ id: enrolments.personId })
      .from(enrolments)
      .where(inArray(enrolments.courseId, hidden));
    await tx.orm.delete(courses).where(eq(courses.forImport, importId));
    await tx.orm.delete(persons).where(
      and(
        idsIn(
          persons.id,
          made.map((p) => p.id),
        ),
        sql`not exists (select 1 from ${enrolments} e where e.person_id = ${persons.id})`,
        sql`not exists (select 1 from ${user} u where u.person_id = ${persons.id})`,
      ),
    );
    await tx.orm.delete(imports).where(eq(imports.id, importId));
  });
}

/** Removes what imports into a course left whose process ended. Returns whether one is still on its way. */
export async function dropDead(db: Database, courseId: number): Promise<boolean> {
  const all = await db.orm
    .select({ id: imports.id, dead: sql<boolean>`${dead}` })
    .from(imports)
    .where(and(eq(imports.courseId, courseId), isNotNull(imports.arrivingUntil)));
  for (const one of all) if (one.dead) await dropArrival(db, one.id);
  return all.some((one) => !one.dead);
}
