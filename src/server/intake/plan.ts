import { eq } from 'drizzle-orm';
import { written, type Changes, type Placed } from '@/core/formats/classify';
import { sameRecord } from '@/core/formats/sameRecord';
import { personFinder } from '@/core/formats/xapi/person';
import type { FileKind, RecordOf, RosterRecord } from '@/core/course/records';
import { aliasesOf, sha1 } from '../xapi/people';
import { waitingRecord } from './records';
import { changed } from './sort';
import type { CourseFiles, ReadOf } from './readFiles';
import type { Instant } from '@/core/units';
import { type Access } from '@/data/database';
import { type CourseModel } from '@/data/queries/courseModel';
import { waiting } from '@/data/schema';
import { ON_STUDENTS, KINDS } from './kinds';
import { activitiesKind } from './kinds/activities';
import { planEvents } from './kinds/events';
import { type Maxima, type IntakeKind, type Waits } from './kinds/kind';
import { outcomesKind } from './kinds/outcomes';
import { rosterKind } from './kinds/roster';

/** What an import would do to a course, by kind of file; a kind that was not sent is absent. */
export type ImportPlan = { readonly [K in FileKind]?: Changes<RecordOf[K]> };

/** Ids of a file that will exist after it is taken: those stored and those newly added. */
const idsAfter = (stored: Iterable<string>, changes: Changes<{ readonly id: string }> | undefined) =>
  new Set([...stored, ...(changes?.added.map((r) => r.value.id) ?? [])]);

/**
 * Decides row by row what an import adds, changes, leaves and rejects, in the order in which the files refer to each
 * other. Reads only; applying it is another step.
 *
 * @param userId who imports: people that only other instructors' courses know under another name are not renamed
 */
export async function planImport(
  access: Access,
  course: CourseModel,
  files: CourseFiles,
  userId: string | null,
  now: Instant,
): Promise<ImportPlan> {
  const people = await rosterKind.stored(access, course);
  const waits = await waitingRows(access, course.row.id);
  const before = { access, course, userId, now, people, waits };
  const none = { outcomes: new Set<string>(), students: new Set<string>(), maxima: new Map() as Maxima };
  const outcomes = files.outcomes && (await outcomesKind.plan(files.outcomes, { ...before, ...none }));
  const outcomeIds = idsAfter(
    course.outcomes.map((o) => o.externalId),
    outcomes,
  );
  const setUp = { ...before, ...none, outcomes: outcomeIds };
  const activities = files.activities && (await activitiesKind.plan(files.activities, setUp));
  const roster = files.roster && (await rosterKind.plan(files.roster, setUp));
  const resolve = await personResolver(access, course.row.id, people, roster);
  const maxima = new Map<string, number | null>(course.activities.map((a) => [a.externalId, a.points]));
  for (const value of written(activities)) maxima.set(value.id, value.points);
  const about = { ...setUp, students: idsAfter(people.keys(), roster), maxima };
  const items = files.items && (await KINDS.items.plan(files.items, about));
  const onStudents: { [K in FileKind]?: Changes<RecordOf[K]> } = {};
  const decide = async <K extends (typeof ON_STUDENTS)[number]>(
    kind: K,
    into: { [P in K]?: Changes<RecordOf[P]> },
  ) => {
    const file: ReadOf<K> | undefined = files[kind];
    const taken: IntakeKind<K> = KINDS[kind];
    if (file) into[kind] = await taken.plan(await named(file, resolve), about);
  };
  for (const kind of ON_STUDENTS) await decide(kind, onStudents);
  const events = files.events && (await planEvents(await named(files.events, resolve), about));
  return { outcomes, activities, items, roster, ...onStudents, events };
}

/** A key as it is stored: a text column holds no zero character. */
export const storedKey = (key: string): string => key.replaceAll('\u0000', ' ');

/** Every row that waits for its person, by kind and key. */
async function waitingRows({ orm }: Access, courseId: number): Promise<Waits> {
  const rows = await orm
    .select({ kind: waiting.kind, key: waiting.key, record: waiting.record })
    .from(waiting)
    .where(eq(waiting.courseId, courseId));
  const known = new Map(rows.map((r) => [`${r.kind} ${r.key}`, waitingRecord(r.record).record]));
  return (kind) => (key, value) => sameRecord(known.get(`${kind} ${storedKey(key)}`), value);
}

/** Finds the student that a name in a file means: their id, their address, or a name that somebody set. */
async function personResolver(
  access: Access,
  courseId: number,
  people: ReadonlyMap<string, RosterRecord>,
  roster: Changes<RosterRecord> | undefined,
): Promise<(name: string) => string> {
  const all = new Map<string, { id: string; email: string | null }>(people);
  for (const value of written(roster)) all.set(value.id, value);
  const find = personFinder([...all.values()], await aliasesOf(access, courseId), sha1);
  const found = new Map<string, string>();
  return (name) => {
    let id = found.get(name);
    if (id === undefined) found.set(name, (id = all.has(name) ? name : (find(name) ?? name)));
    return id;
  };
}

/** The rows of a file with the student that each means. */
const named = async <
  T extends { readonly student: string },
  F extends { readonly rows: readonly Placed<T>[] },
>(
  file: F,
  resolve: (name: string) => string,
): Promise<F> => ({
  ...file,
  rows: await changed(file.rows, (value) => {
    const student = resolve(value.student);
    return student === value.student ? value : { ...value, student };
  }),
});
