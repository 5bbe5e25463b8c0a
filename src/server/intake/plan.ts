import { and, eq, sql } from 'drizzle-orm';
import { classify, type Changes, type Objection } from '@/core/formats/classify';
import type {
  ActivityRecord,
  AttemptRecord,
  EventRecord,
  GradebookRecord,
  OutcomeRecord,
  RosterRecord,
} from '@/core/formats/courseFiles';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, courseStaff, enrolments, events, persons, scores } from '@/data/schema';
import type { CourseModel } from '../derive/courseModel';
import { hasEvents } from '../derive/classRecord';
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
  userId: string,
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
  const maxima = new Map<string, number | null>(course.activities.map((a) => [a.externalId, a.points]));
  for (const { value } of [...(activities?.added ?? []), ...(activities?.changed ?? [])]) {
    maxima.set(value.id, value.points);
  }
  const gradebook =
    files.gradebook && (await planGradebook(access, course, files.gradebook, students, maxima));
  const tries = files.attempts && (await planAttempts(access, course, files.attempts, students, maxima));
  const ids = files.events?.rows.map((r) => r.value.id) ?? [];
  const planned =
    files.events && planEvents(files.events, await storedEvents(access, course, ids), students, maxima, now);
  return { outcomes, activities, roster, gradebook, attempts: tries, events: planned };
}

function planOutcomes(
  course: CourseModel,
  file: NonNullable<CourseFiles['outcomes']>,
): Changes<OutcomeRecord> {
  const existing = new Map(
    course.outcomes.map((o) => [
      o.externalId,
      { id: o.externalId, title: o.title, prerequisites: o.prerequisites },
    ]),
  );
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

function planActivities(
  course: CourseModel,
  file: NonNullable<CourseFiles['activities']>,
  outcomeIds: ReadonlySet<string>,
): Changes<ActivityRecord> {
  const categoryOf = new Map(course.categories.map((c) => [c.id, c]));
  const outcomeOf = new Map(course.outcomes.map((o) => [String(o.id), o.externalId]));
  const existing = new Map(
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

async function storedRoster({ orm }: Access, course: CourseModel): Promise<Map<string, RosterRecord>> {
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
  userId: string,
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
async function peopleOfOthers({ orm }: Access, userId: string) {
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

const scoreKey = (student: string, activity: string) => `${student}\u0000${activity}`;

async function planGradebook(
  { orm }: Access,
  course: CourseModel,
  file: NonNullable<CourseFiles['gradebook']>,
  students: ReadonlySet<string>,
  maxima: ReadonlyMap<string, number | null>,
): Promise<Changes<GradebookRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ score: scores, student: persons.externalId })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  const existing = new Map(
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
  return classify(file.rows, file.rejected, {
    keyOf: (g) => scoreKey(g.student, g.activity),
    keyField: 'activity_id',
    existing,
    same: sameFields,
    objection: (g) => pointsObjection(g, students, maxima),
    onDifference: 'change',
  });
}

/** Why points of a student for an activity cannot be taken; null if they can. */
function pointsObjection(
  g: { readonly student: string; readonly activity: string; readonly points: number | null },
  students: ReadonlySet<string>,
  maxima: ReadonlyMap<string, number | null>,
): Objection {
  if (!students.has(g.student)) return unknownStudent(g.student);
  const maximum = maxima.get(g.activity);
  if (maximum === undefined) return { field: 'activity_id', reason: `there is no activity “${g.activity}”` };
  if (g.points == null) return null;
  if (maximum == null) return { field: 'points', reason: 'given for an activity without points' };
  return g.points > maximum
    ? { field: 'points', reason: `${g.points} is above the maximum of ${maximum}` }
    : null;
}

async function planAttempts(
  { orm }: Access,
  course: CourseModel,
  file: NonNullable<CourseFiles['attempts']>,
  students: ReadonlySet<string>,
  maxima: ReadonlyMap<string, number | null>,
): Promise<Changes<AttemptRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const keyOf = (a: AttemptRecord) => `${scoreKey(a.student, a.activity)}\u0000${a.number}`;
  const rows = await orm
    .select({ attempt: attempts, student: persons.externalId })
    .from(attempts)
    .innerJoin(enrolments, eq(enrolments.id, attempts.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  const existing = new Map(
    rows.map(({ attempt, student }): [string, AttemptRecord] => {
      const known = {
        student,
        activity: activityOf.get(attempt.activityId) ?? '',
        number: attempt.number,
        submitted: attempt.submittedAt.getTime(),
        points: attempt.points,
      };
      return [keyOf(known), known];
    }),
  );
  return classify(file.rows, file.rejected, {
    keyOf,
    keyField: 'attempt',
    existing,
    same: sameFields,
    objection: (a) => pointsObjection(a, students, maxima),
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

function planEvents(
  file: NonNullable<CourseFiles['events']>,
  existing: ReadonlyMap<string, EventRecord>,
  students: ReadonlySet<string>,
  activities: ReadonlyMap<string, number | null>,
  now: Instant,
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
    objection: (e) => {
      if (!students.has(e.student)) return unknownStudent(e.student);
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

const unknownStudent = (id: string) => ({
  field: 'student_id',
  reason: `there is no student “${id}” in the course`,
});

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
