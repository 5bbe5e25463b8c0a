import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import * as yup from 'yup';
import type { Placed } from '@/core/formats/classify';
import type { FileKind, RecordOf } from '@/core/course/records';
import { sameRecord } from '@/core/formats/sameRecord';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import {
  activities,
  categories,
  enrolments,
  events,
  importChanges,
  imports,
  outcomes,
  persons,
  scores,
  sections,
  user,
} from '@/data/schema';
import { deleteMany } from '@/data/write/bulk';
import { now } from '../base/clock';
import { database } from '../base/database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel, lockCourse, type CourseModel } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { revise } from '@/data/queries/revision';
import { peopleImported } from '../derive/peopleChanged';
import { setupChanged } from '../derive/setupChanged';
import { notFound, UseCaseError } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { wakeRunner } from '../jobs/queue';
import { requireCourse, type Viewer } from '../access/viewer';
import { deriveBehind } from '../xapi/follow';
import { readNames } from '../xapi/people';
import { removeImported, unsay } from '../xapi/store';
import { applyImport } from './apply';
import { idsOfFiles } from '@/data/queries/fileIds';
import { LEDGER_KINDS, LEDGERS, removeLedger, storedLedger, type Ledger, type LedgerKind } from './ledgers';
import { planImport, scoreKey, storedRoster, storedScores } from './plan';
import { storedActivities, storedOutcomes } from './planCourse';
import type { CourseFiles, ReadOf } from './readFiles';
import { RECORDS } from './records';
import { ALL, MADE } from './keep';
import { dropWaitingOf, matchesOfRows, matchOf, waitAgain } from './waited';
import { matchAgain } from './waiting';

export interface Undone {
  readonly undone: number;
  /** What somebody has changed since, or what something else rests on: it stays. */
  readonly kept: number;
  /** Whose rows wait again, if what is taken back is that they were taken for somebody. */
  readonly waits: string | null;
}

type Kept = Exclude<FileKind, 'events'>;
interface Pair<T> {
  readonly before: T | null;
  readonly after: T;
}

/**
 * Takes an import back: what it added goes, what it changed is as it was; rows of it that had waited and were matched
 * since go too. What was changed again since, and people and works that something else rests on by now, stay as they
 * are and are counted.
 */
export async function undoImport(viewer: Viewer, code: string, importId: number): Promise<Undone> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const at = now();
  const { undone, files } = await db.transaction(async (tx) => {
    await lockCourse(tx, course.id);
    const own = await undoable(tx, course.id, importId);
    // Who was matched is matched again after it, for what else waits under their names.
    const matched = await matchesOfRows(tx, course.id, importId);
    let undone = 0;
    let kept = 0;
    let waits: string | null = null;
    // The import itself is the last.
    for (const id of [...matched.map((m) => m.importId), importId]) {
      const done = await undoOne(tx, course.id, id, viewer.userId, at);
      undone += done.undone;
      kept += done.kept;
      waits = done.waits;
    }
    undone -= await matchAgain(
      tx,
      course.id,
      viewer.userId,
      matched.map((m) => m.match),
    );
    await deriveBehind(tx, course.id);
    await setupChanged(tx, course.id);
    return { undone: { undone, kept, waits }, files: own.files };
  });
  await peopleImported(db, course.id, files);
  wakeRunner();
  await ensureEvaluated({ ...course, evaluatedAt: null });
  return undone;
}

/** An import of a course that has not been taken back. */
async function undoable({ orm }: Access, courseId: number, importId: number) {
  const [found] = await orm
    .select()
    .from(imports)
    .where(and(eq(imports.id, importId), eq(imports.courseId, courseId), isNull(imports.arrivingUntil)));
  if (!found) throw notFound('import of this course');
  if (found.undoneAt) throw new UseCaseError('conflict', 'This import has been taken back already.');
  return found;
}

/** Takes back what one import wrote. */
async function undoOne(
  tx: Access,
  courseId: number,
  importId: number,
  userId: string,
  at: Instant,
): Promise<Undone> {
  const model = await loadCourseModel(tx, courseId);
  const of = { courseId, names: await readNames(tx, courseId), received: at };
  const match = await matchOf(tx, importId);
  const said = (await removeImported(tx, of, importId)) + (match ? await unsay(tx, of, match.person) : 0);
  const { undone, kept } = await takeBack(tx, model, importId, userId, at);
  if (match) await waitAgain(tx, courseId, match);
  await tx.orm
    .update(imports)
    .set({ undoneAt: new Date(at), undoneBy: userId })
    .where(eq(imports.id, importId));
  return { undone: undone + said, kept, waits: match?.name ?? match?.person ?? null };
}

async function takeBack(
  access: Access,
  course: CourseModel,
  importId: number,
  userId: string,
  at: Instant,
): Promise<Omit<Undone, 'waits'>> {
  const { orm } = access;
  const courseId = course.row.id;
  const gone = await orm
    .delete(events)
    .where(and(eq(events.courseId, courseId), eq(events.importId, importId)))
    .returning({ enrolmentId: events.enrolmentId, at: events.at });
  await dropWaitingOf(access, courseId, importId);
  const affected = new Map<number, Instant>();
  for (const e of gone)
    affected.set(e.enrolmentId, Math.min(e.at.getTime(), affected.get(e.enrolmentId) ?? Infinity));
  if (affected.size > 0) await deriveActivity(access, course, affected, { removed: true });

  const rows = await orm.select().from(importChanges).where(eq(importChanges.importId, importId));
  const pairs = <K extends Kept>(kind: K): Pair<RecordOf[K]>[] => {
    const row = rows.find((r) => r.kind === kind && r.key === ALL);
    if (!row) return [];
    const read = (value: unknown) => RECORDS[kind].validateSync(value, { strict: true }) as RecordOf[K];
    const before = Array.isArray(row.before) ? (row.before as unknown[]) : [];
    const after = Array.isArray(row.after) ? (row.after as unknown[]) : [];
    return after.map((a, i) => ({ before: before[i] == null ? null : read(before[i]), after: read(a) }));
  };
  let undone = gone.length;
  let kept = 0;
  /** Sorts what still stands as the import left it into what goes and what comes back. */
  const split = <T>(list: readonly Pair<T>[], stored: ReadonlyMap<string, T>, keyOf: (v: T) => string) => {
    const still = list.filter((p) => sameRecord(stored.get(keyOf(p.after)), p.after));
    kept += list.length - still.length;
    return {
      added: still.filter((p) => p.before == null).map((p) => p.after),
      back: still.flatMap((p) => p.before ?? []),
    };
  };
  const works = split(pairs('activities'), storedActivities(course), (a) => a.id);
  const aims = split(pairs('outcomes'), storedOutcomes(course), (o) => o.id);
  const people = split(pairs('roster'), await storedRoster(access, course), (r) => r.id);
  const grades = split(pairs('gradebook'), await storedScores(access, course), (g) =>
    scoreKey(g.student, g.activity),
  );
  const ids = await idsOfFiles(access, courseId, course.activities);
  const cell = (v: { student: string; activity: string }) => ({
    enrolmentId: ids.enrolmentOf.get(v.student) ?? 0,
    activityId: ids.activityOf.get(v.activity) ?? 0,
  });
  const ledgerFiles: CourseFiles = {};
  const takeLedgerBack = async <K extends LedgerKind>(kind: K) => {
    const { keyOf } = LEDGERS[kind] as Ledger<RecordOf[K]>;
    const { added, back } = split(pairs(kind), await storedLedger(access, course, kind), keyOf);
    await removeLedger(access, ids, kind, added);
    undone += added.length;
    Object.assign(ledgerFiles, file(kind, back));
  };
  for (const kind of LEDGER_KINDS) await takeLedgerBack(kind);
  if (grades.added.length > 0) {
    const cells = grades.added.map(cell);
    await deleteMany(access, scores, [scores.enrolmentId, scores.activityId], cells);
    await revise(access, courseId, [...new Set(cells.map((c) => c.enrolmentId))]);
  }
  undone += grades.added.length;

  // What was changed is changed back by the way in: the same checks, the same derivations.
  const files: CourseFiles = {
    ...file('outcomes', aims.back),
    ...file('activities', works.back),
    ...file('roster', people.back),
    ...file('gradebook', grades.back),
    ...ledgerFiles,
  };
  const plan = await planImport(access, course, files, userId, at);
  await applyImport(access, course, plan);
  const restored = [...Object.values(files)].reduce((sum, f) => sum + f.rows.length, 0);
  undone += restored;

  const left = await removePeople(
    access,
    people.added.flatMap((p) => ids.enrolmentOf.get(p.id) ?? []),
  );
  undone += people.added.length - left;
  kept += left;
  const worksLeft = await removeWorks(
    access,
    works.added.flatMap((a) => ids.activityOf.get(a.id) ?? []),
  );
  undone += works.added.length - worksLeft;
  kept += worksLeft;
  const aimIds = new Map(course.outcomes.map((o) => [o.externalId, o.id]));
  const outcomesLeft = await removeOutcomes(
    access,
    aims.added.flatMap((o) => aimIds.get(o.id) ?? []),
  );
  const made = (kind: Kept) => {
    const row = rows.find((r) => r.kind === kind && r.key === MADE);
    return row ? NAMES.validateSync(row.after, { strict: true }) : [];
  };
  await removeMade(access, courseId, made('roster'), made('activities'));
  return { undone: undone + aims.added.length - outcomesLeft, kept: kept + outcomesLeft };
}

function file<K extends Kept>(kind: K, values: readonly RecordOf[K][]): CourseFiles {
  if (values.length === 0) return {};
  const rows = values.map((value, i): Placed<RecordOf[K]> => ({ line: i + 1, value, cells: [] }));
  const read: ReadOf<Kept> = {
    name: 'what stood before',
    header: [],
    rows: rows as never,
    rejected: [],
    absent: [],
  };
  return { [kind]: read };
}

/** Takes people out who have nothing but their place; returns how many have more, and stay. */
async function removePeople({ orm }: Access, ids: readonly number[]): Promise<number> {
  if (ids.length === 0) return 0;
  const resting = ['events', 'scores', ...LEDGER_KINDS, 'recipients', 'notes', 'plans', 'acts'];
  const none = resting.map(
    (table) =>
      sql`not exists (select 1 from ${sql.identifier(table)} t where t.enrolment_id = ${enrolments}.id)`,
  );
  const gone = await orm
    .delete(enrolments)
    .where(and(idsIn(enrolments.id, ids), ...none))
    .returning({ personId: enrolments.personId });
  const candidates = gone.map((g) => g.personId);
  if (candidates.length > 0) {
    await orm
      .delete(persons)
      .where(
        and(
          idsIn(persons.id, candidates),
          sql`not exists (select 1 from ${enrolments} e where e.person_id = ${persons}.id)`,
          sql`not exists (select 1 from ${user} u where u.person_id = ${persons}.id)`,
        ),
      );
  }
  return ids.length - gone.length;
}

async function removeWorks({ orm }: Access, ids: readonly number[]): Promise<number> {
  if (ids.length === 0) return 0;
  const none = ['events', 'scores', 'attempts', 'responses', 'plan_steps'].map(
    (table) =>
      sql`not exists (select 1 from ${sql.identifier(table)} t where t.activity_id = ${activities}.id)`,
  );
  const gone = await orm
    .delete(activities)
    .where(and(inArray(activities.id, [...ids]), ...none))
    .returning({ id: activities.id });
  return ids.length - gone.length;
}

const NAMES = yup.array(yup.string().required()).required();

/** Takes sections and categories out that were made for rows that are gone, unless somebody uses them by now. */
async function removeMade(
  { orm }: Access,
  courseId: number,
  sectionNames: readonly string[],
  categoryNames: readonly string[],
): Promise<void> {
  if (sectionNames.length > 0)
    await orm
      .delete(sections)
      .where(
        and(
          eq(sections.courseId, courseId),
          inArray(sections.name, [...sectionNames]),
          sql`not exists (select 1 from ${enrolments} e where e.section_id = ${sections}.id)`,
          sql`jsonb_array_length(${sections.meetings}) = 0`,
        ),
      );
  if (categoryNames.length > 0)
    await orm
      .delete(categories)
      .where(
        and(
          eq(categories.courseId, courseId),
          inArray(categories.name, [...categoryNames]),
          sql`not exists (select 1 from ${activities} a where a.category_id = ${categories}.id)`,
        ),
      );
}

/** Takes outcomes out that nothing covers, has as a part of it or comes after; returns how many stay. */
async function removeOutcomes({ orm }: Access, ids: readonly number[]): Promise<number> {
  let left = [...ids];
  // The lowest go first: what only they rest on can go after them.
  while (left.length > 0) {
    const gone = await orm
      .delete(outcomes)
      .where(
        and(
          inArray(outcomes.id, left),
          sql`not exists (select 1 from activity_outcomes c where c.outcome_id = ${outcomes}.id)`,
          sql`not exists (select 1 from outcomes part where part.parent_id = ${outcomes}.id)`,
          sql`not exists (select 1 from outcomes later where later.course_id = ${outcomes}.course_id
            and later.prerequisites ? ${outcomes}.external_id)`,
        ),
      )
      .returning({ id: outcomes.id });
    if (gone.length === 0) break;
    const taken = new Set(gone.map((g) => g.id));
    left = left.filter((id) => !taken.has(id));
  }
  return left.length;
}
