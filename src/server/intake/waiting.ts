import { plainWords } from '@/core/people/plainText';
import type { Schema } from 'yup';
import { and, asc, count, eq, max, min } from 'drizzle-orm';
import type { Placed } from '@/core/formats/classify';
import type { FileKind, RecordOf } from '@/core/course/records';
import { personFinder } from '@/core/formats/xapi/person';
import type { WaitingPerson } from '@/core/views/live';
import type { Access } from '@/data/database';
import { aliases, enrolments, imports, persons, waiting } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { followSoon, untilFollowed } from '../xapi/follow';
import { loadCourseModel } from '@/data/queries/courseModel';
import { setupChanged } from '../derive/setupChanged';
import { notFound } from '../base/errors';
import { requireEnrolment, requireCourse, type Viewer } from '../access/viewer';
import { aliasesOf, readNames, sha1 } from '../xapi/people';
import { takeRecords } from '../xapi/store';
import { importPlanned } from './intake';
import type { CourseFiles, ReadOf } from './readFiles';
import { statementRecord, waitingRecord } from './records';
import { asWaited, keepMatch, whatWaitedOf, type Match } from './waited';
import { ON_STUDENTS, KINDS } from './kinds';
import { eventSchema } from './kinds/events';
import { underLock } from '@/data/write/underLock';

/** Everybody whose rows wait in a course, those with most rows first, with who they may be. */
export async function waitingPeople(viewer: Viewer, code: string): Promise<WaitingPerson[]> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const rows = await orm
    .select({
      person: waiting.person,
      name: max(waiting.name),
      rows: count(),
      since: min(waiting.at),
    })
    .from(waiting)
    .where(eq(waiting.courseId, course.id))
    .groupBy(waiting.person)
    .orderBy(asc(waiting.person));
  const people = await orm
    .select({ id: enrolments.id, given: persons.given, family: persons.family, email: persons.email })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.id));
  return rows
    .map((r) => ({
      person: r.person,
      name: r.name,
      rows: r.rows,
      since: r.since?.getTime() ?? 0,
      likely: people
        .map((p) => ({ id: p.id, like: likeness(`${r.name ?? ''} ${r.person}`, p) }))
        .filter((p) => p.like > 0)
        .sort((a, b) => b.like - a.like)
        .slice(0, 3)
        .map((p) => p.id),
    }))
    .sort((a, b) => b.rows - a.rows);
}

// A letter alone is an initial: it tells nobody apart.
const words = (text: string): string[] => plainWords(text).filter((w) => w.length > 1);

/** How many words of a person's name and address stand in what the source calls somebody. */
function likeness(text: string, p: { given: string; family: string; email: string | null }): number {
  const said = new Set(words(text));
  return words(`${p.given} ${p.family} ${p.email?.split('@')[0] ?? ''}`).filter((w) => said.has(w)).length;
}

/** Whether rows of somebody wait in a course. */
export async function isWaiting(courseId: number, person: string): Promise<boolean> {
  const { orm } = await database();
  const [row] = await orm
    .select({ id: waiting.id })
    .from(waiting)
    .where(and(eq(waiting.courseId, courseId), eq(waiting.person, person)))
    .limit(1);
  return row !== undefined;
}

/** Rows that went in, and the import by which they are taken back. */
export interface Matched {
  readonly rows: number;
  readonly importId: number;
}

/** Says who somebody is: the name is remembered, and their rows go in. */
export async function matchPerson(
  viewer: Viewer,
  code: string,
  person: string,
  enrolmentId: number,
): Promise<Matched> {
  const course = await requireCourse(viewer, 'import', code);
  const enrolment = await requireEnrolment(course, enrolmentId);
  const db = await database();
  const taken = await underLock(db, course.id, async (tx) => {
    await rememberName(tx, course.id, person, enrolment.personId);
    await setupChanged(tx, course.id);
    const [row] = await tx.orm
      .select({ student: persons.externalId })
      .from(persons)
      .where(eq(persons.id, enrolment.personId));
    const who = { person, student: row!.student, byHand: true };
    const [matched] = await takeWaiting(tx, course.id, viewer.userId, [who]);
    // A name that nobody waits under is not remembered either.
    if (!matched) throw notFound('row of that name waiting');
    return { matched, job: await followSoon(tx, course.id, 0) };
  });
  await untilFollowed(db, course.id, taken.job);
  return taken.matched;
}

const rememberName = ({ orm }: Access, courseId: number, value: string, personId: number) =>
  orm
    .insert(aliases)
    .values({ courseId, value, personId })
    .onConflictDoUpdate({ target: [aliases.courseId, aliases.value], set: { personId } });

/** Puts matches in force again that were taken back, for whatever waits under their names. Returns how many rows go in. */
export async function matchAgain(
  access: Access,
  courseId: number,
  userId: string,
  matches: readonly Match[],
): Promise<number> {
  for (const { byHand, person, student } of matches) {
    if (!byHand) continue;
    const [known] = await access.orm
      .select({ id: persons.id })
      .from(persons)
      .where(eq(persons.externalId, student));
    if (known) await rememberName(access, courseId, person, known.id);
  }
  const taken = await takeWaiting(access, courseId, userId, matches);
  return taken.reduce((sum, { rows }) => sum + rows, 0);
}

/** Looks again whether anybody who waits is known by now (a roster that came later, an address that was mended). */
export async function matchByRule(viewer: Viewer, code: string): Promise<number> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const taken = await underLock(db, course.id, async (tx) => {
    const people = await tx.orm
      .select({ id: persons.externalId, email: persons.email })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(eq(enrolments.courseId, course.id));
    const find = personFinder(people, await aliasesOf(tx, course.id), sha1);
    const rows = await tx.orm
      .selectDistinct({ person: waiting.person })
      .from(waiting)
      .where(eq(waiting.courseId, course.id));
    const known = rows.flatMap(({ person }) => {
      const student = find(person);
      return student == null ? [] : [{ person, student, byHand: false }];
    });
    const matched = await takeWaiting(tx, course.id, viewer.userId, known);
    return { matched, job: await followSoon(tx, course.id, 0) };
  });
  await untilFollowed(db, course.id, taken.job);
  return taken.matched.reduce((sum, { rows }) => sum + rows, 0);
}

/** Leaves the rows of somebody out for good. */
export async function dropWaiting(viewer: Viewer, code: string, person: string): Promise<number> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const gone = await orm
    .delete(waiting)
    .where(and(eq(waiting.courseId, course.id), eq(waiting.person, person)))
    .returning({ id: waiting.id });
  return gone.length;
}

/** Puts in what waited of people who are known now, and notes it as an import of its own. */
async function takeWaiting(
  access: Access,
  courseId: number,
  userId: string,
  people: readonly Pick<Match, 'person' | 'student' | 'byHand'>[],
): Promise<Matched[]> {
  const taken: Matched[] = [];
  const names = await readNames(access, courseId);
  for (const who of people) {
    const { person } = who;
    const rows = await access.orm
      .delete(waiting)
      .where(and(eq(waiting.courseId, courseId), eq(waiting.person, person)))
      .returning();
    if (rows.length === 0) continue;
    const [made] = await access.orm
      .insert(imports)
      .values({ courseId, userId, at: nowDate(), files: [] })
      .returning({ id: imports.id });
    taken.push({ rows: rows.length, importId: made!.id });
    const said = rows.flatMap((r) =>
      statementRecord.isValidSync(r.record, { strict: true }) ? [r.record] : [],
    );
    const ofFiles = rows.filter((r) => !statementRecord.isValidSync(r.record, { strict: true }));
    await keepMatch(access, made!.id, {
      person,
      student: who.student,
      byHand: who.byHand,
      name: rows[0]!.name,
      rows: ofFiles.map(asWaited),
    });
    const told = await takeRecords(access, { courseId, names, received: now(), importId: made!.id }, said);
    const files: CourseFiles = Object.assign(
      {},
      ...WAIT.map((kind) =>
        fileOf(
          kind,
          ofFiles.filter((r) => r.kind === kind),
        ),
      ),
    );
    const model = await loadCourseModel(access, courseId);
    const more =
      said.length > 0
        ? [
            {
              file: whatWaitedOf(rows[0]!.name ?? person),
              kind: 'statements',
              added: told.events,
              changed: 0,
              unchanged: said.length - told.events,
              rejected: 0,
              waiting: 0,
            },
          ]
        : [];
    await importPlanned(access, model, files, { userId, at: now(), importId: made!.id, more });
  }
  return taken;
}

/** Kinds of records that are about a student, and can wait for them. */
const WAIT = [...ON_STUDENTS, 'events'] as const;

function fileOf(kind: (typeof WAIT)[number], rows: readonly { record: unknown }[]): CourseFiles {
  const placed = rows.flatMap((r, i): Placed<RecordOf[FileKind]>[] => {
    const { record, absent } = waitingRecord(r.record);
    const schema: Schema<unknown> = kind === 'events' ? eventSchema : KINDS[kind].schema;
    return schema.isValidSync(record, { strict: true })
      ? [{ line: i + 1, value: record as RecordOf[FileKind], cells: [], absent }]
      : [];
  });
  if (placed.length === 0) return {};
  const read: ReadOf<FileKind> = {
    name: 'rows that waited',
    header: [],
    rows: placed as never,
    rejected: [],
    absent: [],
  };
  return { [kind]: read };
}
