import { eq, inArray, sql } from 'drizzle-orm';
import type {
  ActivityRecord,
  EventRecord,
  GradebookRecord,
  OutcomeRecord,
  RecordOf,
  RosterRecord,
} from '@/core/course/records';
import { written, type Changes, type Placed } from '@/core/formats/classify';
import type { Instant } from '@/core/units';
import { copyLine, type Access } from '@/data/database';
import {
  activities,
  activityOutcomes,
  categories,
  enrolments,
  outcomes,
  persons,
  scores,
  sections,
} from '@/data/schema';
import { deriveActivity } from '../derive/activity';
import type { DerivableEvent } from '@/data/queries/eventColumns';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
import { startHistory } from '../derive/evaluate';
import { queueEvaluation } from '../derive/outdated';
import { revise } from '@/data/queries/revision';
import { reviseSetup } from '../derive/setupChanged';
import { hasEvents } from '@/data/queries/classRecord';
import { idsOfFiles, type FileIds } from '@/data/queries/fileIds';
import { LEDGER_KINDS, writeLedger, type LedgerKind } from './ledgers';
import type { ImportPlan } from './plan';

const toDate = (at: Instant | null) => (at == null ? null : new Date(at));
/** Events written together: few enough that their text is small beside them. */
const COPIED = 5000;
const EVENT_COLUMNS = [
  'course_id',
  'event_id',
  'enrolment_id',
  'at',
  'kind',
  'activity_id',
  'duration_s',
  'import_id',
];
/** Rows a statement: few enough for the parameter limit of PostgreSQL (65,535). */
const CHUNK = 1000;

function* chunks<T>(rows: readonly T[]): Generator<T[]> {
  for (let i = 0; i < rows.length; i += CHUNK) yield rows.slice(i, i + CHUNK);
}

const changesAnything = (plan: ImportPlan): boolean =>
  Object.values(plan).some((c?: Changes<unknown>) => c && c.added.length + c.changed.length > 0);

/** A course once what a plan says of its set-up is written, with the ids of its people and activities. */
export interface SetUp {
  readonly course: CourseModel;
  readonly ids: FileIds;
}

/**
 * Writes what a plan says, and brings everything derived up to date, in a transaction that holds the course. Flags are
 * evaluated after it, through the queue.
 *
 * @param options.importId the import that new events carry
 */
export async function applyImport(
  access: Access,
  course: CourseModel,
  plan: ImportPlan,
  { importId = null }: { importId?: number | null } = {},
): Promise<void> {
  if (!changesAnything(plan)) return;
  const first =
    plan.events != null && plan.events.added.length > 0 && !(await hasEvents(access, course.row.id));
  const setUp = await writePlan(access, course, plan);
  const added = plan.events?.added ?? [];
  for (let from = 0; from < added.length; from += COPIED) {
    await copyEvents(access, setUp, added.slice(from, from + COPIED), importId);
  }
  if (plan.events || plan.roster || plan.activities)
    await deriveActivity(access, setUp.course, affectedBy(plan, setUp.ids));
  if (first) await startHistory(access, course.row.id);
  await queueEvaluation(access, course.row.id);
}

/** Writes all of a plan but its events: the set-up of the course, its gradebook and what hangs on students. */
export async function writePlan(access: Access, course: CourseModel, plan: ImportPlan): Promise<SetUp> {
  const courseId = course.row.id;
  if (plan.outcomes) await writeOutcomes(access, course, [...plan.outcomes.added, ...plan.outcomes.changed]);
  if (plan.activities)
    await writeActivities(access, course, [...plan.activities.added, ...plan.activities.changed]);
  if (plan.roster) await writeRoster(access, course, [...plan.roster.added, ...plan.roster.changed]);
  if (plan.roster || plan.activities || plan.outcomes) await reviseSetup(access, courseId);
  const fresh = await loadCourseModel(access, courseId);
  const ids = await idsOfFiles(access, courseId, fresh.activities);
  if (plan.gradebook) await writeScores(access, ids, plan.gradebook.added, plan.gradebook.changed);
  for (const kind of LEDGER_KINDS) await writeLedgerOf(access, ids, plan, kind);
  const graded = written(plan.gradebook);
  if (graded.length > 0)
    await revise(access, courseId, [...new Set(graded.map((g) => ids.enrolmentOf.get(g.student)!))]);
  return { course: fresh, ids };
}

/** An event of a file, as the derivation needs it. */
export const derivableEvent = (ids: FileIds, e: EventRecord): DerivableEvent => ({
  enrolmentId: ids.enrolmentOf.get(e.student)!,
  at: e.at,
  kind: e.kind,
  activityId: e.activity == null ? null : ids.activityOf.get(e.activity)!,
  duration: e.duration,
});

/** Appends events of a file; they are as new as the plan says, or the database refuses all of them. */
export async function copyEvents(
  access: Access,
  { course, ids }: SetUp,
  rows: readonly Placed<EventRecord>[],
  importId: number | null,
): Promise<void> {
  let csv = '';
  for (const { value } of rows) {
    const e = derivableEvent(ids, value);
    const at = new Date(e.at);
    csv += copyLine([course.row.id, value.id, e.enrolmentId, at, e.kind, e.activityId, e.duration, importId]);
  }
  await access.copy('events', EVENT_COLUMNS, csv);
}

/** Whose derived rows a plan makes outdated, and from when on; null for everybody. */
export function affectedBy(plan: ImportPlan, ids: FileIds): Map<number, Instant> | null {
  // A changed kind moves typical dwells.
  if ((plan.activities?.changed.length ?? 0) > 0) return null;
  const affected = new Map<number, Instant>();
  for (const { value } of plan.events?.added ?? []) {
    const id = ids.enrolmentOf.get(value.student)!;
    affected.set(id, Math.min(value.at, affected.get(id) ?? Infinity));
  }
  // A changed section moves time between in and outside class.
  for (const { value } of plan.roster?.changed ?? []) affected.set(ids.enrolmentOf.get(value.id)!, -Infinity);
  return affected;
}

async function writeOutcomes({ orm }: Access, course: CourseModel, rows: readonly Placed<OutcomeRecord>[]) {
  const places = new Map(course.outcomes.map((o) => [o.externalId, o.position]));
  const values = rows.map(({ value }, i) => ({
    courseId: course.row.id,
    externalId: value.id,
    title: value.title,
    prerequisites: [...value.prerequisites],
    position: places.get(value.id) ?? course.outcomes.length + i,
  }));
  for (const chunk of chunks(values)) {
    await orm
      .insert(outcomes)
      .values(chunk)
      .onConflictDoUpdate({
        target: [outcomes.courseId, outcomes.externalId],
        set: { title: sql`excluded.title`, prerequisites: sql`excluded.prerequisites` },
      });
  }
  // Once all are there: a part may stand before its whole.
  for (const chunk of chunks(rows)) {
    const ids = sql.param(chunk.map((r) => r.value.id));
    const parents = sql.param(chunk.map((r) => r.value.parent));
    await orm.execute(sql`update ${outcomes} set parent_id = whole.id
      from unnest(${ids}::text[], ${parents}::text[]) as said(id, parent)
      left join ${outcomes} as whole on whole.course_id = ${course.row.id} and whole.external_id = said.parent
      where ${outcomes.courseId} = ${course.row.id} and ${outcomes.externalId} = said.id`);
  }
}

async function writeActivities(
  { orm }: Access,
  course: CourseModel,
  rows: readonly Placed<ActivityRecord>[],
) {
  const courseId = course.row.id;
  for (const { value } of rows) {
    if (value.category == null) continue;
    await orm
      .insert(categories)
      .values({
        courseId,
        name: value.category,
        weight: value.categoryWeight ?? 1,
        dropLowest: value.dropLowest,
      })
      .onConflictDoUpdate({
        target: [categories.courseId, categories.name],
        set: { weight: sql`excluded.weight`, dropLowest: sql`excluded.drop_lowest` },
      });
  }
  const stored = await orm.select().from(categories).where(eq(categories.courseId, courseId));
  const categoryOf = new Map(stored.map((c) => [c.name, c.id]));
  const places = new Map(course.activities.map((a) => [a.externalId, a.position]));
  const values = rows.map(({ value }, i) => ({
    courseId,
    externalId: value.id,
    title: value.title,
    kind: value.kind,
    categoryId: value.category == null ? null : categoryOf.get(value.category)!,
    points: value.points,
    opensAt: toDate(value.opens),
    dueAt: toDate(value.due),
    closesAt: toDate(value.closes),
    minutes: value.minutes == null ? null : Math.round(value.minutes),
    attemptsAllowed: value.attempts,
    position: places.get(value.id) ?? course.activities.length + i,
  }));
  for (const chunk of chunks(values)) {
    await orm
      .insert(activities)
      .values(chunk)
      .onConflictDoUpdate({
        target: [activities.courseId, activities.externalId],
        set: {
          title: sql`excluded.title`,
          kind: sql`excluded.kind`,
          categoryId: sql`excluded.category_id`,
          points: sql`excluded.points`,
          opensAt: sql`excluded.opens_at`,
          dueAt: sql`excluded.due_at`,
          closesAt: sql`excluded.closes_at`,
          minutes: sql`excluded.minutes`,
          attemptsAllowed: sql`excluded.attempts_allowed`,
        },
      });
  }
  const ids = await orm
    .select({ id: activities.id, external: activities.externalId })
    .from(activities)
    .where(eq(activities.courseId, courseId));
  const activityOf = new Map(ids.map((a) => [a.external, a.id]));
  const outcomeRows = await orm.select().from(outcomes).where(eq(outcomes.courseId, courseId));
  const outcomeOf = new Map(outcomeRows.map((o) => [o.externalId, o.id]));
  const touched = rows.map((r) => activityOf.get(r.value.id)!);
  if (touched.length > 0)
    await orm.delete(activityOutcomes).where(inArray(activityOutcomes.activityId, touched));
  const links = rows.flatMap(({ value }) =>
    [...new Set(value.outcomes)].map((o) => ({
      activityId: activityOf.get(value.id)!,
      outcomeId: outcomeOf.get(o)!,
    })),
  );
  for (const chunk of chunks(links)) await orm.insert(activityOutcomes).values(chunk);
}

async function writeRoster({ orm }: Access, course: CourseModel, rows: readonly Placed<RosterRecord>[]) {
  const courseId = course.row.id;
  const names = new Set(rows.flatMap((r) => (r.value.section == null ? [] : [r.value.section])));
  for (const name of names) {
    await orm.insert(sections).values({ courseId, name, meetings: [] }).onConflictDoNothing();
  }
  const stored = await orm.select().from(sections).where(eq(sections.courseId, courseId));
  const sectionOf = new Map(stored.map((s) => [s.name, s.id]));
  const people = rows.map(({ value }) => ({
    externalId: value.id,
    given: value.given,
    family: value.family,
    email: value.email,
  }));
  const personOf = new Map<string, number>();
  for (const chunk of chunks(people)) {
    const written = await orm
      .insert(persons)
      .values(chunk)
      .onConflictDoUpdate({
        target: persons.externalId,
        set: { given: sql`excluded.given`, family: sql`excluded.family`, email: sql`excluded.email` },
      })
      .returning({ id: persons.id, external: persons.externalId });
    for (const person of written) personOf.set(person.external, person.id);
  }
  const places = rows.map(({ value }) => ({
    courseId,
    personId: personOf.get(value.id)!,
    sectionId: value.section == null ? null : sectionOf.get(value.section)!,
    status: value.status,
    joinedOn: value.joined,
    leftOn: value.left,
  }));
  for (const chunk of chunks(places)) {
    await orm
      .insert(enrolments)
      .values(chunk)
      .onConflictDoUpdate({
        target: [enrolments.courseId, enrolments.personId],
        set: {
          sectionId: sql`excluded.section_id`,
          status: sql`excluded.status`,
          joinedOn: sql`excluded.joined_on`,
          leftOn: sql`excluded.left_on`,
        },
      });
  }
}

async function writeLedgerOf<K extends LedgerKind>(access: Access, ids: FileIds, plan: ImportPlan, kind: K) {
  const changes = plan[kind] as Changes<RecordOf[K]> | undefined;
  if (!changes) return;
  await writeLedger(access, ids, kind, written(changes));
}

async function writeScores(
  access: Access,
  ids: FileIds,
  added: readonly Placed<GradebookRecord>[],
  changed: readonly Placed<GradebookRecord>[],
) {
  const row = ({ value }: Placed<GradebookRecord>) => ({
    enrolmentId: ids.enrolmentOf.get(value.student)!,
    activityId: ids.activityOf.get(value.activity)!,
    submittedAt: toDate(value.submitted),
    gradedAt: toDate(value.graded),
    returnedAt: toDate(value.returned),
    points: value.points,
    excused: value.excused,
    ownDueAt: toDate(value.due),
    extraAttempts: value.extra,
  });
  let csv = '';
  for (const placed of added) {
    const r = row(placed);
    csv += copyLine([
      r.enrolmentId,
      r.activityId,
      r.submittedAt,
      r.gradedAt,
      r.returnedAt,
      r.points,
      r.excused,
      r.ownDueAt,
      r.extraAttempts,
    ]);
  }
  await access.copy(
    'scores',
    [
      'enrolment_id',
      'activity_id',
      'submitted_at',
      'graded_at',
      'returned_at',
      'points',
      'excused',
      'own_due_at',
      'extra_attempts',
    ],
    csv,
  );
  for (const chunk of chunks(changed.map(row))) {
    await access.orm
      .insert(scores)
      .values(chunk)
      .onConflictDoUpdate({
        target: [scores.enrolmentId, scores.activityId],
        set: {
          submittedAt: sql`excluded.submitted_at`,
          gradedAt: sql`excluded.graded_at`,
          returnedAt: sql`excluded.returned_at`,
          points: sql`excluded.points`,
          excused: sql`excluded.excused`,
          ownDueAt: sql`excluded.own_due_at`,
          extraAttempts: sql`excluded.extra_attempts`,
          fromStatements: sql`false`,
        },
      });
  }
}
