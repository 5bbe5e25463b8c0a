import { and, eq, sql } from 'drizzle-orm';
import { written, type Changes, type Placed } from '@/core/formats/classify';
import type { EventRecord, FileKind, GradebookRecord, RecordOf, RosterRecord } from '@/core/course/records';
import { fillScore } from '@/core/formats/mapping/fillScores';
import { sameFields, sameRecord } from '@/core/formats/sameRecord';
import { keepUnsaid, ROSTER_FIELDS } from '@/core/formats/unsaid';
import { personFinder } from '@/core/formats/xapi/person';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { enrolments, persons, scores, seenEvents, waiting } from '@/data/schema';
import { peopleOfOthers } from '../access/reliedOn';
import type { CourseModel } from '@/data/queries/courseModel';
import { ofStudents } from '@/data/queries/days';
import { hasEvents } from '@/data/queries/classRecord';
import { turn } from '@/data/turn';
import { aliasesOf, sha1 } from '../xapi/people';
import { eventRecordOf, eventRows } from '@/data/queries/eventRows';
import { planActivities, planOutcomes } from './planCourse';
import { waitingRecord } from './records';
import {
  keyText,
  LEDGER_KINDS,
  LEDGERS,
  pointsObjection,
  storedLedger,
  type Ledger,
  type LedgerKind,
  type Maxima,
} from './ledgers';
import type { CourseFiles, ReadOf } from './readFiles';
import { changed, sort } from './sort';

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
  const outcomes = files.outcomes && (await planOutcomes(course, files.outcomes));
  const outcomeIds = idsAfter(
    course.outcomes.map((o) => o.externalId),
    outcomes,
  );
  const activities = files.activities && (await planActivities(course, files.activities, outcomeIds));
  const people = await storedRoster(access, course);
  const roster = files.roster && (await planRoster(access, files.roster, people, userId));
  const students = idsAfter(people.keys(), roster);
  const waits = await waitingRows(access, course.row.id);
  const resolve = await personResolver(access, course.row.id, people, roster);
  const maxima = new Map<string, number | null>(course.activities.map((a) => [a.externalId, a.points]));
  for (const value of written(activities)) {
    maxima.set(value.id, value.points);
  }
  const gradebook =
    files.gradebook &&
    (await planGradebook(
      access,
      course,
      await named(files.gradebook, resolve),
      students,
      maxima,
      waits,
      now,
    ));
  const about: AboutPeople = { students, maxima, waits, resolve };
  const ledgers: { [K in LedgerKind]?: Changes<RecordOf[K]> } = {};
  for (const kind of LEDGER_KINDS) await planLedger(access, course, files, kind, about, ledgers);
  const ids = files.events?.rows.map((r) => r.value.id) ?? [];
  const planned =
    files.events &&
    (await planEvents(
      await named(files.events, resolve),
      await storedEvents(access, course, ids),
      students,
      maxima,
      now,
      waits,
    ));
  return { outcomes, activities, roster, gradebook, ...ledgers, events: planned };
}

/** The roster of a course as the files write it, by id. */
export async function storedRoster({ orm }: Access, course: CourseModel): Promise<Map<string, RosterRecord>> {
  const sectionName = new Map(course.sections.map((s) => [s.id, s.name]));
  const rows = await orm
    .select({ person: persons, enrolment: enrolments })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  return new Map(
    rows.map(({ person, enrolment }) => [
      person.externalId,
      {
        id: person.externalId,
        given: person.given,
        family: person.family,
        email: person.email,
        section: sectionName.get(enrolment.sectionId ?? -1) ?? null,
        status: enrolment.status,
        joined: enrolment.joinedOn,
        left: enrolment.leftOn,
      },
    ]),
  );
}

async function planRoster(
  access: Access,
  file: NonNullable<CourseFiles['roster']>,
  existing: ReadonlyMap<string, RosterRecord>,
  userId: string | null,
): Promise<Changes<RosterRecord>> {
  const strangers = await peopleOfOthers(
    access,
    userId,
    file.rows.map((r) => r.value.id),
  );
  const whole = (r: RosterRecord) => keepUnsaid(r, existing.get(r.id), file.absent, ROSTER_FIELDS);
  return sort(await changed(file.rows, whole), file.rejected, {
    keyOf: (r) => r.id,
    keyField: 'student_id',
    existing,
    same: sameFields,
    objection: (r) => {
      const known = strangers.get(r.id);
      if (known && (known.given !== r.given || known.family !== r.family || known.email !== r.email)) {
        return {
          field: 'student_id',
          reason: 'belongs to somebody with another name or address in a course that is not yours',
        };
      }
      return r.left && r.joined && r.left < r.joined ? { field: 'left', reason: 'is before joined' } : null;
    },
    onDifference: 'change',
  });
}

export const scoreKey = (student: string, activity: string) => keyText(student, activity);

/** The gradebook of a course, or of one of its enrolments, as the files write it, by student and activity. */
export async function storedScores(
  { orm }: Access,
  course: CourseModel,
  enrolmentId?: number,
): Promise<Map<string, GradebookRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ score: scores, student: persons.externalId })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(ofStudents(course.row.id, enrolmentId == null ? undefined : [enrolmentId]));
  return new Map(
    rows.map(({ score, student }): [string, GradebookRecord] => {
      const activity = activityOf.get(score.activityId) ?? '';
      return [
        scoreKey(student, activity),
        {
          student,
          activity,
          submitted: score.submittedAt?.getTime() ?? null,
          graded: score.gradedAt?.getTime() ?? null,
          returned: score.returnedAt?.getTime() ?? null,
          points: score.points,
          excused: score.excused,
          due: score.ownDueAt?.getTime() ?? null,
          extra: score.extraAttempts,
        },
      ];
    }),
  );
}

async function planGradebook(
  access: Access,
  course: CourseModel,
  file: ReadOf<'gradebook'>,
  students: ReadonlySet<string>,
  maxima: Maxima,
  waits: Waits,
  now: Instant,
): Promise<Changes<GradebookRecord>> {
  const existing = await storedScores(access, course);
  const keyOf = (g: GradebookRecord) => scoreKey(g.student, g.activity);
  // Of whom nobody knows who it is, nobody knows either what stands there already.
  const whole = (g: GradebookRecord, row: Placed<GradebookRecord>) =>
    students.has(g.student) ? fillScore(g, existing.get(keyOf(g)), row.absent ?? file.absent, now) : g;
  return sort(await changed(file.rows, whole), file.rejected, {
    keyOf,
    keyField: 'activity_id',
    existing,
    same: sameFields,
    objection: (g) => pointsObjection(g, maxima),
    waitsAlready: waits('gradebook'),
    waits: (g) => !students.has(g.student),
    onDifference: 'change',
  });
}

/** What deciding about rows on students needs to know. */
interface AboutPeople {
  readonly students: ReadonlySet<string>;
  readonly maxima: Maxima;
  readonly waits: Waits;
  readonly resolve: (name: string) => string;
}

async function planLedger<K extends LedgerKind>(
  access: Access,
  course: CourseModel,
  files: CourseFiles,
  kind: K,
  { students, maxima, waits, resolve }: AboutPeople,
  into: { [P in K]?: Changes<RecordOf[P]> },
): Promise<void> {
  const file: ReadOf<K> | undefined = files[kind];
  if (!file) return;
  const { keyOf, keyField, objection } = LEDGERS[kind] as Ledger<RecordOf[K]>;
  const { rows, rejected } = await named(file, resolve);
  into[kind] = await sort<RecordOf[K]>(rows, rejected, {
    keyOf,
    keyField,
    existing: await storedLedger(access, course, kind),
    same: sameFields,
    objection: (r) => objection(r, maxima),
    waitsAlready: waits(kind),
    waits: (r) => !students.has(r.student),
    onDifference: 'change',
  });
}

/** Ids looked up a statement: few enough to be looked up in the index one by one. */
const LOOK_UP = 5000;

/** The events stored under any of the ids. */
export async function storedEvents(
  access: Access,
  course: CourseModel,
  ids: readonly string[],
): Promise<Map<string, EventRecord>> {
  const found = new Map<string, EventRecord>();
  if (!(await hasEvents(access, course.row.id))) return found;
  const recordOf = eventRecordOf(course);
  for (let i = 0; i < ids.length; i += LOOK_UP) {
    const rows = await eventRows(access).where(
      and(
        eq(seenEvents.courseId, course.row.id),
        sql`${seenEvents.eventId} = any(${sql.param(ids.slice(i, i + LOOK_UP))}::text[])`,
      ),
    );
    for (const row of rows) found.set(row.id, recordOf(row));
    await turn();
  }
  return found;
}

/** Whether a record of that key waits already, and is the same. */
type Waits = (kind: FileKind) => (key: string, value: unknown) => boolean;

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

function planEvents(
  file: NonNullable<CourseFiles['events']>,
  existing: ReadonlyMap<string, EventRecord>,
  students: ReadonlySet<string>,
  activities: ReadonlyMap<string, number | null>,
  now: Instant,
  waits: Waits,
): Promise<Changes<EventRecord>> {
  const latest = now + DAY_MS;
  return sort(file.rows, file.rejected, {
    keyOf: (e) => e.id,
    keyField: 'event_id',
    existing,
    same: (a, b) =>
      a.at === b.at &&
      a.student === b.student &&
      a.kind === b.kind &&
      a.activity === b.activity &&
      a.duration === b.duration,
    waitsAlready: waits('events'),
    waits: (e) => !students.has(e.student),
    objection: (e) => {
      if (e.activity != null && !activities.has(e.activity)) {
        return { field: 'activity_id', reason: `there is no activity “${e.activity}”` };
      }
      return e.at > latest
        ? { field: 'at', reason: 'lies in the future; check the clock of the source' }
        : null;
    },
    onDifference: 'reject',
  });
}
