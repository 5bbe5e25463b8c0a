import { setTimeout as pause } from 'node:timers/promises';
import { and, count, eq } from 'drizzle-orm';
import { written, type Placed } from '@/core/formats/classify';
import type { EventRecord } from '@/core/course/records';
import { sameFields } from '@/core/formats/sameRecord';
import type { Instant } from '@/core/units';
import type { FileCounts } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import { behind, courses, enrolments, events, imports } from '@/data/schema';
import { installActivity, prepareActivity, type Derived, type KnownEvents } from '../derive/activity';
import { hasEvents } from '@/data/queries/classRecord';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
import { startHistory } from '../derive/evaluate';
import { queueEvaluation, queueSweep } from '../derive/outdated';
import { changedSince, importsMark } from '@/data/queries/revision';
import { UseCaseError } from '../base/errors';
import { isTaken, reportFailure } from '../base/failure';
import type { Progress } from '../jobs/progress';
import { deriveBehind, followSoon } from '../xapi/follow';
import { readNames } from '../xapi/people';
import { affectedBy, writePlan } from './apply';
import { copyEvents, derivableEvent, storedEvents } from './kinds/events';
import {
  beginArrival,
  dropArrival,
  dropDead,
  HEARD_EVERY_MS,
  HELD_MS,
  makeBeside,
  moveIn,
  stillArriving,
  type Arrival,
} from './arrival';
import { idsOfFiles, type FileIds } from '@/data/queries/fileIds';
import { keepPlan, noteCounts, planned, type Imported, type Importing } from './importing';
import { bringMeetings } from './meetings';
import { planImport, type ImportPlan } from './plan';
import { countsOf } from './previewOf';
import { keepSources } from './sources';
import { bringStatements, letStatementsCount, type BroughtStatements } from './statements';
import { lockCourse } from '@/data/write/underLock';

/** How often an import begins anew because the course was set up otherwise meanwhile. */
const ANEW = 3;

/**
 * Imports many rows so that nobody waits for it and nobody sees a part of it. It is compared and prepared outside of any
 * transaction; events and statements go in by short ones, under an import that does not count yet, and derived rows in a
 * version that does not hold yet. One last transaction changes what is there and lets all of it be seen, after it has
 * made sure that the course is as it was when it was compared.
 */
export async function importBeside(db: Database, how: Importing): Promise<Imported> {
  for (let i = 0; i < ANEW; i++) {
    const arrival = await begin(db, how);
    // What fails of it is told by the last transaction, which asks for the same.
    const heard = setInterval(() => {
      void stillArriving(db, arrival).catch(() => undefined);
    }, HEARD_EVERY_MS);
    try {
      const done = await bring(db, arrival, how);
      if (done) return done;
    } catch (error) {
      // What cannot be removed now (the disk may be full) is seen by nobody, and swept up later.
      await dropArrival(db, arrival.importId).catch((e: unknown) => void reportFailure('clearing up', e));
      throw error;
    } finally {
      clearInterval(heard);
    }
    await dropArrival(db, arrival.importId);
  }
  throw new UseCaseError(
    'conflict',
    'Somebody changes this course at the same time. Nothing was changed; import the files again.',
  );
}

/** How often it is looked whether another import into the course has ended, or its process with it. */
const LOOK_EVERY_MS = 500;

async function begin(db: Database, { target, userId, jobId, progress }: Importing): Promise<Arrival> {
  if (!target.isNew) {
    const courseId = await target.make(db);
    const until = performance.now() + HELD_MS + 4 * LOOK_EVERY_MS;
    while ((await dropDead(db, courseId)) && performance.now() < until) {
      await progress('Waiting for another import into this course');
      await pause(LOOK_EVERY_MS);
    }
  }
  return db.transaction(async (tx) => {
    const courseId = await target.make(tx);
    await lockCourse(tx, courseId);
    const arrival = await beginArrival(tx, courseId, { userId, jobId });
    await target.isNew?.hide(tx, courseId, arrival.importId);
    return arrival;
  });
}

/** What says whether a course is still as it was. */
const marksOf = async ({ orm }: Access, courseId: number) => {
  const [row] = await orm
    .select({
      rev: courses.rev,
      setup: courses.setupRev,
      imports: importsMark(courseId),
    })
    .from(courses)
    .where(eq(courses.id, courseId));
  return row!;
};

/** Everything of an import that is ready where nobody sees it. */
interface Ready {
  readonly model: CourseModel;
  readonly marks: Awaited<ReturnType<typeof marksOf>>;
  readonly plan: ImportPlan;
  readonly ids: FileIds;
  readonly brought: readonly BroughtStatements[];
  /** Events that cannot go in, since others came in live under their ids. */
  readonly early: number;
  readonly derived: Derived | null;
  readonly first: boolean;
}

/** Brings an import in; null if the course was set up otherwise meanwhile, so that it must be compared again. */
async function bring(db: Database, arrival: Arrival, how: Importing): Promise<Imported | null> {
  const { read, userId, at, progress } = how;
  await progress('Comparing with what is there');
  const { courseId } = arrival;
  const marks = await marksOf(db, courseId);
  const model = await loadCourseModel(db, courseId);
  const first = !(await hasEvents(db, courseId));
  const plan = await planImport(db, model, read.files, userId, at);
  const made = await db.transaction((tx) => makeBeside(tx, arrival, model, plan));
  const there = await idsOfFiles(db, courseId, model.activities);
  const ids: FileIds = {
    enrolmentOf: new Map([...there.enrolmentOf, ...made.enrolmentOf]),
    activityOf: new Map([...there.activityOf, ...made.activityOf]),
  };
  const early = await writeEvents(db, arrival, { course: model, ids }, plan.events?.added ?? [], progress);
  const names = await readNames(db, courseId, { ...plan, ids: made });
  const brought: BroughtStatements[] = [];
  for (const file of read.statements)
    brought.push(await bringStatements(db, arrival, file, names, at, progress));
  await progress('Sessions and days');
  const affected = await affectedByAll(db, courseId, plan, ids, brought);
  const known = first && brought.length === 0 ? eventsByStudent(plan, ids) : undefined;
  const derived = await prepareActivity(
    db,
    modelToCome(model, plan, ids),
    affected,
    arrival.version,
    { importId: arrival.importId, sections: sectionsToCome(model, plan, ids), known },
    progress,
  );
  const ready = { model, marks, plan, ids, brought, early, derived, first };
  return db.transaction((tx) => finish(tx, arrival, how, ready));
}

/** Events written together: few enough that nobody waits for it. */
const WRITTEN = 500;

/**
 * Writes new events where nobody sees them. Returns how many cannot go in: others came in live, under their ids, after
 * they had been compared.
 */
async function writeEvents(
  db: Database,
  arrival: Arrival,
  setUp: { readonly course: CourseModel; readonly ids: FileIds },
  added: readonly Placed<EventRecord>[],
  progress: Progress,
): Promise<number> {
  let rejected = 0;
  for (let from = 0; from < added.length; from += WRITTEN) {
    await progress('Writing events', from, added.length);
    const some = added.slice(from, from + WRITTEN);
    try {
      await copyEvents(db, setUp, some, arrival.importId);
    } catch (error) {
      if (!isTaken(error)) throw error;
      const ids = some.map((row) => row.value.id);
      const known = await storedEvents(db, setUp.course, ids);
      for (const { value } of some) {
        const stored = known.get(value.id);
        if (stored && !sameFields(stored, value)) rejected++;
      }
      await copyEvents(
        db,
        setUp,
        some.filter((row) => !known.has(row.value.id)),
        arrival.importId,
      );
    }
  }
  return rejected;
}

/** Whose derived rows the import makes outdated, and from when on. */
async function affectedByAll(
  { orm }: Access,
  courseId: number,
  plan: ImportPlan,
  ids: FileIds,
  brought: readonly BroughtStatements[],
): Promise<Map<number, Instant>> {
  let affected = affectedBy(plan, ids);
  if (!affected) {
    const all = await orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.courseId, courseId));
    affected = new Map(all.map((e) => [e.id, -Infinity]));
    for (const { value } of plan.roster?.added ?? []) affected.set(ids.enrolmentOf.get(value.id)!, -Infinity);
  }
  for (const file of brought)
    for (const [id, at] of file.affected) affected.set(id, Math.min(at, affected.get(id) ?? Infinity));
  return affected;
}

/** The new events by student: the first of a course are all at hand. They are made as they are asked for. */
function eventsByStudent({ events: planned }: ImportPlan, ids: FileIds): KnownEvents {
  const rows = planned?.added ?? [];
  const places = new Map<number, number[]>();
  rows.forEach(({ value }, i) => {
    const id = ids.enrolmentOf.get(value.student)!;
    const own = places.get(id);
    if (own) own.push(i);
    else places.set(id, [i]);
  });
  return new Map(
    [...places].map(([id, own]) => [
      id,
      {
        length: own.length,
        *[Symbol.iterator]() {
          for (const i of own) yield derivableEvent(ids, rows[i]!.value);
        },
      },
    ]),
  );
}

/** A course with the activities that a plan brings, as far as days and sessions rest on them. */
function modelToCome(model: CourseModel, { activities }: ImportPlan, ids: FileIds): CourseModel {
  const saidOf = new Map(written(activities).map((a) => [a.id, a]));
  const there = model.activities.map((row) => {
    const said = saidOf.get(row.externalId);
    return said ? { ...row, kind: said.kind } : row;
  });
  const [like] = model.activities;
  const added = (activities?.added ?? []).map(({ value }) => ({
    ...(like ?? NO_ACTIVITY),
    id: ids.activityOf.get(value.id)!,
    externalId: value.id,
    title: value.title,
    kind: value.kind,
  }));
  return { ...model, activities: [...there, ...added] };
}

const NO_ACTIVITY: Omit<CourseModel['activities'][number], 'id' | 'externalId' | 'title' | 'kind'> = {
  courseId: 0,
  categoryId: null,
  points: null,
  opensAt: null,
  dueAt: null,
  closesAt: null,
  minutes: null,
  attemptsAllowed: null,
  position: 0,
  extraCredit: false,
  forSome: false,
  keyShown: 'closed',
};

/** The sections of the students that a plan adds or changes. One that is new has no meetings yet. */
function sectionsToCome(
  model: CourseModel,
  { roster }: ImportPlan,
  ids: FileIds,
): Map<number, number | null> {
  const sectionOf = new Map(model.sections.map((s) => [s.name, s.id]));
  return new Map(
    written(roster).map((r) => [ids.enrolmentOf.get(r.id)!, sectionOf.get(r.section ?? '') ?? null]),
  );
}

/** Students derived again in the last transaction; of more the queue is asked. */
const FEW_STUDENTS = 20;

/** The last transaction: changes what is there, and lets all of the import be seen. */
async function finish(
  tx: Access,
  arrival: Arrival,
  { target, read, userId, at, stillMine }: Importing,
  ready: Ready,
): Promise<Imported | null> {
  const { courseId, importId } = arrival;
  const { marks, brought, early, derived, first } = ready;
  await lockCourse(tx, courseId);
  await stillArriving(tx, arrival);
  const now = await marksOf(tx, courseId);
  if (now.setup !== marks.setup || now.imports !== marks.imports) return null;
  const changed = now.rev === marks.rev ? [] : await changedSince(tx, courseId, marks.rev);
  const { files } = read;
  const plan = changed.length === 0 ? ready.plan : await compareAgain(tx, ready, files, userId, at);
  await moveIn(tx, arrival);
  await keepPlan(tx, importId, ready.model, plan, files, at);
  await writePlan(tx, ready.model, plan);
  await tx.orm.update(imports).set({ arrivingUntil: null }).where(eq(imports.id, importId));
  const names = await readNames(tx, courseId);
  const told: FileCounts[] = [];
  for (const file of brought) told.push(await letStatementsCount(tx, arrival, file, names, at));
  const stale = derived ? await installActivity(tx, courseId, derived) : [];
  await deriveAgain(tx, courseId, [...new Set([...changed, ...stale])]);
  if (first && ((plan.events?.added.length ?? 0) > 0 || brought.length > 0)) await startHistory(tx, courseId);
  const rows: FileCounts[] = [];
  for (const { kind, file, changes } of planned(plan, files)) {
    const counts = countsOf(kind, file.name, changes);
    rows.push(kind === 'events' ? await countEvents(tx, arrival, counts, early, brought) : counts);
  }
  await noteCounts(tx, importId, [...rows, ...told]);
  await bringMeetings(tx, courseId, read.packages);
  await keepSources(tx, courseId, read.packages);
  await target.isNew?.show(tx, courseId);
  await queueEvaluation(tx, courseId);
  await queueSweep(tx, courseId);
  await stillMine(tx);
  return { courseId, counts: [...rows, ...told] };
}

/** Decides again what the files do, but for their events, which are written already. */
async function compareAgain(
  tx: Access,
  { model, plan }: Ready,
  { events: _, ...files }: Importing['read']['files'],
  userId: string | null,
  at: Instant,
): Promise<ImportPlan> {
  return { ...(await planImport(tx, model, files, userId, at)), events: plan.events };
}

/** Derives students again of whom something came in while the import was prepared; many of them in a moment. */
async function deriveAgain(tx: Access, courseId: number, changed: readonly number[]): Promise<void> {
  if (changed.length > 0)
    await tx.orm
      .insert(behind)
      .values(changed.map((enrolmentId) => ({ enrolmentId, since: new Date(0), removed: false })))
      .onConflictDoUpdate({ target: behind.enrolmentId, set: { since: new Date(0) } });
  const [late] = await tx.orm
    .select({ n: count() })
    .from(behind)
    .innerJoin(enrolments, eq(enrolments.id, behind.enrolmentId))
    .where(eq(enrolments.courseId, courseId));
  if (late!.n <= FEW_STUDENTS) await deriveBehind(tx, courseId);
  else await followSoon(tx, courseId);
}

/** How many events of a file went in: what came in live meanwhile was there first. */
async function countEvents(
  { orm }: Access,
  { courseId, importId }: Arrival,
  counts: FileCounts,
  early: number,
  brought: readonly BroughtStatements[],
): Promise<FileCounts> {
  const [own] = await orm
    .select({ n: count() })
    .from(events)
    .where(and(eq(events.courseId, courseId), eq(events.importId, importId)));
  const ofStatements = brought.reduce((sum, b) => sum + b.events, 0);
  const added = Math.min(counts.added, own!.n - ofStatements);
  return {
    ...counts,
    added,
    unchanged: counts.unchanged + counts.added - added - early,
    rejected: counts.rejected + early,
  };
}
