import { and, eq, sql } from 'drizzle-orm';
import { classify, type Changes, type Objection, type Placed } from '@/core/formats/classify';
import type {
  ActivityRecord,
  AttemptRecord,
  EventRecord,
  GradebookRecord,
  OutcomeRecord,
  RosterRecord,
} from '@/core/formats/courseFiles';
import { personFinder } from '@/core/formats/xapi/person';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, courseStaff, enrolments, events, persons, scores, waiting } from '@/data/schema';
import type { CourseModel } from '../derive/courseModel';
import { hasEvents } from '../derive/classRecord';
import { aliasesOf, sha1 } from '../xapi/people';
import type { CourseFiles } from './readFiles';

/** What an import would do to a course, by kind of file; a kind that was not sent is absent. */
export interface ImportPlan {
  readonly outcomes?: Changes<OutcomeRecord>;
  readonly activities?: Changes<ActivityRecord>;
  readonly roster?: Changes<RosterRecord>;
  readonly gradebook?: Changes<GradebookRecord>;
  readonly attempts?: Changes<AttemptRecord>;
  readonly events?: Changes<EventRecord>;
}

const sameFields = <T extends object>(a: T, b: T): boolean =>
  (Object.keys(a) as (keyof T)[]).every((key) =>
    Array.isArray(a[key]) ? JSON.stringify(a[key]) === JSON.stringify(b[key]) : a[key] === b[key],
  );

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
  const outcomes = files.outcomes && planOutcomes(course, files.outcomes);
  const outcomeIds = idsAfter(
    course.outcomes.map((o) => o.externalId),
    outcomes,
  );
  const activities = files.activities && planActivities(course, files.activities, outcomeIds);
  const people = await storedRoster(access, course);
  const roster = files.roster && (await planRoster(access, files.roster, people, userId));
  const students = idsAfter(people.keys(), roster);
  const waits = await waitingKeys(access, course.row.id);
  const resolve = await personResolver(access, course.row.id, people, roster);
  const maxima = new Map<string, number | null>(course.activities.map((a) => [a.externalId, a.points]));
  for (const { value } of [...(activities?.added ?? []), ...(activities?.changed ?? [])]) {
    maxima.set(value.id, value.points);
  }
  const gradebook =
    files.gradebook &&
    (await planGradebook(access, course, named(files.gradebook, resolve), students, maxima, waits));
  const tries =
    files.attempts &&
    (await planAttempts(access, course, named(files.attempts, resolve), students, maxima, waits));
  const ids = files.events?.rows.map((r) => r.value.id) ?? [];
  const planned =
    files.events &&
    planEvents(
      named(files.events, resolve),
      await storedEvents(access, course, ids),
      students,
      maxima,
      now,
      waits,
    );
  return { outcomes, activities, roster, gradebook, attempts: tries, events: planned };
}

/** The outcomes of a course as the files write them, by id. */
export function storedOutcomes(course: CourseModel): Map<string, OutcomeRecord> {
  return new Map(
    course.outcomes.map((o) => [
      o.externalId,
      { id: o.externalId, title: o.title, prerequisites: o.prerequisites },
    ]),
  );
}

function planOutcomes(
  course: CourseModel,
  file: NonNullable<CourseFiles['outcomes']>,
): Changes<OutcomeRecord> {
  const existing = storedOutcomes(course);
  const ids = new Set([...existing.keys(), ...file.rows.map((r) => r.value.id)]);
  return classify(file.rows, file.rejected, {
    keyOf: (o) => o.id,
    keyField: 'outcome_id',
    existing,
    same: sameFields,
    objection: (o) => {
      const unknown = o.prerequisites.find((p) => !ids.has(p) || p === o.id);
      return unknown ? { field: 'prerequisites', reason: `there is no other outcome “${unknown}”` } : null;
    },
    onDifference: 'change',
  });
}

/** The activities of a course as the files write them, by id. */
export function storedActivities(course: CourseModel): Map<string, ActivityRecord> {
  const categoryOf = new Map(course.categories.map((c) => [c.id, c]));
  const outcomeOf = new Map(course.outcomes.map((o) => [String(o.id), o.externalId]));
  return new Map(
    course.activities.map((a): [string, ActivityRecord] => {
      const category = categoryOf.get(a.categoryId ?? -1);
      return [
        a.externalId,
        {
          id: a.externalId,
          title: a.title,
          kind: a.kind,
          category: category?.name ?? null,
          categoryWeight: category?.weight ?? null,
          dropLowest: category?.dropLowest ?? 0,
          points: a.points,
          opens: a.opensAt?.getTime() ?? null,
          due: a.dueAt?.getTime() ?? null,
          minutes: a.minutes,
          attempts: a.attemptsAllowed,
          outcomes: [...(course.covers.get(String(a.id)) ?? [])].map((id) => outcomeOf.get(id)!),
        },
      ];
    }),
  );
}

function planActivities(
  course: CourseModel,
  file: NonNullable<CourseFiles['activities']>,
  outcomeIds: ReadonlySet<string>,
): Changes<ActivityRecord> {
  const existing = storedActivities(course);
  // A category has one weight; the first line that names it sets it.
  const weights = new Map<string, { weight: number | null; drop: number }>();
  const objection = (a: ActivityRecord): Objection => {
    const unknown = a.outcomes.find((o) => !outcomeIds.has(o));
    if (unknown) return { field: 'outcomes', reason: `there is no outcome “${unknown}”` };
    if (a.category == null) return null;
    const first = weights.get(a.category);
    if (!first) weights.set(a.category, { weight: a.categoryWeight, drop: a.dropLowest });
    else if (first.weight !== a.categoryWeight || first.drop !== a.dropLowest) {
      return {
        field: 'category_weight',
        reason: `differs from an earlier line of the category “${a.category}”`,
      };
    }
    return null;
  };
  const same = (a: ActivityRecord, b: ActivityRecord) =>
    sameFields({ ...a, outcomes: [...a.outcomes].sort() }, { ...b, outcomes: [...b.outcomes].sort() });
  return classify(file.rows, file.rejected, {
    keyOf: (a) => a.id,
    keyField: 'activity_id',
    existing,
    same,
    objection,
    onDifference: 'change',
  });
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
  const strangers = await peopleOfOthers(access, userId);
  return classify(file.rows, file.rejected, {
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

/** People enrolled in a course that this user does not teach: their names are not this user's to change. */
async function peopleOfOthers({ orm }: Access, userId: string | null) {
  // The command line is whoever runs the installation: all people are theirs.
  if (userId == null) return new Map<string, typeof persons.$inferSelect>();
  const own = await orm
    .select({ id: courseStaff.courseId })
    .from(courseStaff)
    .where(eq(courseStaff.userId, userId));
  const rows = await orm
    .select({ person: persons, courseId: enrolments.courseId })
    .from(persons)
    .innerJoin(enrolments, eq(enrolments.personId, persons.id));
  const mine = new Set(own.map((c) => c.id));
  return new Map(rows.filter((r) => !mine.has(r.courseId)).map((r) => [r.person.externalId, r.person]));
}

export const scoreKey = (student: string, activity: string) => `${student}\u0000${activity}`;

/** The gradebook of a course as the files write it, by student and activity. */
export async function storedScores(
  { orm }: Access,
  course: CourseModel,
): Promise<Map<string, GradebookRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ score: scores, student: persons.externalId })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
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
        },
      ];
    }),
  );
}

async function planGradebook(
  access: Access,
  course: CourseModel,
  file: NonNullable<CourseFiles['gradebook']>,
  students: ReadonlySet<string>,
  maxima: ReadonlyMap<string, number | null>,
  waits: ReadonlySet<string>,
): Promise<Changes<GradebookRecord>> {
  const existing = await storedScores(access, course);
  return classify(file.rows, file.rejected, {
    keyOf: (g) => scoreKey(g.student, g.activity),
    keyField: 'activity_id',
    existing,
    same: sameFields,
    objection: (g) => pointsObjection(g, maxima),
    waitsAlready: (key) => waits.has(`gradebook ${key.replaceAll('\u0000', ' ')}`),
    waits: (g) => !students.has(g.student),
    onDifference: 'change',
  });
}

/** Why points for an activity cannot be taken; null if they can. */
function pointsObjection(
  g: { readonly activity: string; readonly points: number | null },
  maxima: ReadonlyMap<string, number | null>,
): Objection {
  const maximum = maxima.get(g.activity);
  if (maximum === undefined) return { field: 'activity_id', reason: `there is no activity “${g.activity}”` };
  if (g.points == null) return null;
  if (maximum == null) return { field: 'points', reason: 'given for an activity without points' };
  return g.points > maximum
    ? { field: 'points', reason: `${g.points} is above the maximum of ${maximum}` }
    : null;
}

export const attemptKey = (a: AttemptRecord) => `${scoreKey(a.student, a.activity)}\u0000${a.number}`;

/** The attempts of a course as the files write them, by student, activity and number. */
export async function storedAttempts(
  { orm }: Access,
  course: CourseModel,
): Promise<Map<string, AttemptRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ attempt: attempts, student: persons.externalId })
    .from(attempts)
    .innerJoin(enrolments, eq(enrolments.id, attempts.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  return new Map(
    rows.map(({ attempt, student }): [string, AttemptRecord] => {
      const known = {
        student,
        activity: activityOf.get(attempt.activityId) ?? '',
        number: attempt.number,
        submitted: attempt.submittedAt.getTime(),
        points: attempt.points,
      };
      return [attemptKey(known), known];
    }),
  );
}

async function planAttempts(
  access: Access,
  course: CourseModel,
  file: NonNullable<CourseFiles['attempts']>,
  students: ReadonlySet<string>,
  maxima: ReadonlyMap<string, number | null>,
  waits: ReadonlySet<string>,
): Promise<Changes<AttemptRecord>> {
  const existing = await storedAttempts(access, course);
  return classify(file.rows, file.rejected, {
    keyOf: attemptKey,
    keyField: 'attempt',
    existing,
    same: sameFields,
    objection: (a) => pointsObjection(a, maxima),
    waitsAlready: (key) => waits.has(`attempts ${key.replaceAll('\u0000', ' ')}`),
    waits: (a) => !students.has(a.student),
    onDifference: 'change',
  });
}

/** Ids looked up a statement: few enough to be looked up in the index one by one. */
const LOOK_UP = 10_000;

/** The events stored under any of the ids. */
async function storedEvents(
  access: Access,
  course: CourseModel,
  ids: readonly string[],
): Promise<Map<string, EventRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const found = new Map<string, EventRecord>();
  if (!(await hasEvents(access, course.row.id))) return found;
  for (let i = 0; i < ids.length; i += LOOK_UP) {
    const rows = await access.orm
      .select({
        id: events.eventId,
        student: persons.externalId,
        at: events.at,
        kind: events.kind,
        activityId: events.activityId,
        duration: events.durationS,
      })
      .from(events)
      .innerJoin(enrolments, eq(enrolments.id, events.enrolmentId))
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(
        and(
          eq(events.courseId, course.row.id),
          sql`${events.eventId} = any(${sql.param(ids.slice(i, i + LOOK_UP))}::text[])`,
        ),
      );
    for (const { activityId, at, ...row } of rows) {
      found.set(row.id, { ...row, at: at.getTime(), activity: activityOf.get(activityId ?? -1) ?? null });
    }
  }
  return found;
}

/** Kind and key of every row that waits for its person. */
async function waitingKeys({ orm }: Access, courseId: number): Promise<Set<string>> {
  const rows = await orm
    .select({ kind: waiting.kind, key: waiting.key })
    .from(waiting)
    .where(eq(waiting.courseId, courseId));
  return new Set(rows.map((r) => `${r.kind} ${r.key}`));
}

/** Finds the student that a name in a file means: their id, their address, or a name that somebody set. */
async function personResolver(
  access: Access,
  courseId: number,
  people: ReadonlyMap<string, RosterRecord>,
  roster: Changes<RosterRecord> | undefined,
): Promise<(name: string) => string> {
  const all = new Map<string, { id: string; email: string | null }>(people);
  for (const { value } of [...(roster?.added ?? []), ...(roster?.changed ?? [])]) all.set(value.id, value);
  const find = personFinder([...all.values()], await aliasesOf(access, courseId), sha1);
  const found = new Map<string, string>();
  return (name) => {
    let id = found.get(name);
    if (id === undefined) found.set(name, (id = all.has(name) ? name : (find(name) ?? name)));
    return id;
  };
}

/** The rows of a file with the student that each means. */
const named = <T extends { readonly student: string }, F extends { readonly rows: readonly Placed<T>[] }>(
  file: F,
  resolve: (name: string) => string,
): F => ({
  ...file,
  rows: file.rows.map((row) => {
    const student = resolve(row.value.student);
    return student === row.value.student ? row : { ...row, value: { ...row.value, student } };
  }),
});

function planEvents(
  file: NonNullable<CourseFiles['events']>,
  existing: ReadonlyMap<string, EventRecord>,
  students: ReadonlySet<string>,
  activities: ReadonlyMap<string, number | null>,
  now: Instant,
  waits: ReadonlySet<string>,
): Changes<EventRecord> {
  const latest = now + DAY_MS;
  return classify(file.rows, file.rejected, {
    keyOf: (e) => e.id,
    keyField: 'event_id',
    existing,
    same: (a, b) =>
      a.at === b.at &&
      a.student === b.student &&
      a.kind === b.kind &&
      a.activity === b.activity &&
      a.duration === b.duration,
    waitsAlready: (key) => waits.has(`events ${key.replaceAll('\u0000', ' ')}`),
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

/** Database ids of the people and activities of a course by the ids of the files. */
export async function idsOfFiles({ orm }: Access, courseId: number, activityRows: CourseModel['activities']) {
  const rows = await orm
    .select({ external: persons.externalId, enrolment: enrolments.id })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, courseId));
  return {
    enrolmentOf: new Map(rows.map((r) => [r.external, r.enrolment])),
    activityOf: new Map(activityRows.map((a) => [a.externalId, a.id])),
  };
}
