import type { Kept } from './kinds';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import * as yup from 'yup';
import type { Placed } from '@/core/formats/classify';
import type { RecordOf } from '@/core/course/records';
import { sameRecord } from '@/core/formats/sameRecord';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { activities, categories, enrolments, events, importChanges, imports, sections } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
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
import { planImport } from './plan';
import type { CourseFiles, ReadOf } from './readFiles';
import { ALL, MADE } from './keep';
import { dropWaitingOf, matchesOfRows, matchOf, waitAgain } from './waited';
import { matchAgain } from './waiting';
import { KINDS, ON_STUDENTS } from './kinds';
import { type IntakeKind } from './kinds/kind';
import { underLock } from '@/data/write/underLock';
import { writeLetters } from '../mail/letters';
import { dayAndTime, listed } from '@/core/format';
import { user } from '@/data/schema';
import type { CourseRow } from '@/data/queries/courseModel';

export interface Undone {
  readonly undone: number;
  /** What somebody has changed since, or what something else rests on: it stays. */
  readonly kept: number;
  /** Whose rows wait again, if what is taken back is that they were taken for somebody. */
  readonly waits: string | null;
}

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
  const { undone, files } = await underLock(db, course.id, async (tx) => {
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
    await tellImporter(tx, course, viewer, own);
    await deriveBehind(tx, course.id);
    await setupChanged(tx, course.id);
    return { undone: { undone, kept, waits }, files: own.files };
  });
  await peopleImported(db, course.id, files);
  wakeRunner();
  await ensureEvaluated({ ...course, evaluatedAt: null });
  return undone;
}

/** Tells a colleague whose import was taken back. */
async function tellImporter(
  tx: Access,
  course: CourseRow,
  viewer: Viewer,
  { id, userId, files, at }: typeof imports.$inferSelect,
): Promise<void> {
  if (userId == null || userId === viewer.userId) return;
  const [colleague] = await tx.orm.select().from(user).where(eq(user.id, userId));
  if (!colleague) return;
  const names = [...new Set(files.map((f) => f.file))];
  await writeLetters(tx, [
    {
      key: `undone-import.${id}`,
      courseId: course.id,
      to: { userId, name: colleague.name, email: colleague.email },
      subject: `${viewer.name} undid your import into ${course.code}`,
      body: `${viewer.name} undid the import you made into ${course.title} on ${dayAndTime(at.getTime(), course.zone)}${names.length > 0 ? ` (${listed(names)})` : ''}. What it had added is gone. You can import the files again at any time.`,
    },
  ]);
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
    const { schema } = KINDS[kind] as IntakeKind<K>;
    const read = (value: unknown) => schema.validateSync(value, { strict: true });
    const before = Array.isArray(row.before) ? (row.before as unknown[]) : [];
    const after = Array.isArray(row.after) ? (row.after as unknown[]) : [];
    return after.map((a, i) => ({ before: before[i] == null ? null : read(before[i]), after: read(a) }));
  };
  const place = { course, ids: await idsOfFiles(access, courseId, course.activities) };
  let undone = gone.length;
  let kept = 0;
  const files: CourseFiles = {};
  /** What still stands as the import left it: what it changed comes back by the way in, what it added is taken out. */
  const split = async <K extends Kept>(kind: K): Promise<() => Promise<void>> => {
    const { keyOf, stored, remove }: IntakeKind<K> = KINDS[kind];
    const list = pairs(kind);
    const there = list.length > 0 ? await stored(access, course) : new Map<string, RecordOf[K]>();
    const still = list.filter((p) => sameRecord(there.get(keyOf(p.after)), p.after));
    const added = still.filter((p) => p.before == null).map((p) => p.after);
    Object.assign(
      files,
      file(
        kind,
        still.flatMap((p) => p.before ?? []),
      ),
    );
    kept += list.length - still.length;
    return async () => {
      const left = added.length > 0 ? await remove(access, place, added) : 0;
      undone += added.length - left;
      kept += left;
    };
  };
  const setUp = [];
  for (const kind of ['roster', 'activities', 'outcomes'] as const) setUp.push(await split(kind));
  for (const kind of ['items', ...ON_STUDENTS] as const) await (await split(kind))();
  // What was changed is changed back by the way in: the same checks, the same derivations.
  await applyImport(access, course, await planImport(access, course, files, userId, at));
  undone += Object.values(files).reduce((sum, f) => sum + f.rows.length, 0);
  // Once nothing of the import rests on them any more.
  for (const take of setUp) await take();
  const made = (kind: Kept) => {
    const row = rows.find((r) => r.kind === kind && r.key === MADE);
    return row ? NAMES.validateSync(row.after, { strict: true }) : [];
  };
  await removeMade(access, courseId, made('roster'), made('activities'));
  return { undone, kept };
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
