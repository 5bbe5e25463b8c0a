import { and, desc, eq, isNull } from 'drizzle-orm';
import type { Mapping } from '@/core/course/mapping';
import type { Instant } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { tidy } from '@/data/tidy';
import { courses, imports, user } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { loadCourseModel, type CourseModel } from '@/data/queries/courseModel';
import { hasEvents } from '@/data/queries/classRecord';
import { startHistory } from '../derive/evaluate';
import { peopleImported } from '../derive/peopleChanged';
import { evaluateNow } from '../derive/evaluation';
import { invalid, notFound } from '../base/errors';
import { needSpace, reportFailure } from '../base/failure';
import { unwatched, type Progress } from '../jobs/progress';
import { enqueue, wakeRunner, type Payload } from '../jobs/queue';
import type { Working } from '../jobs/runner';
import { requireCourse, type Viewer } from '../access/viewer';
import { deriveBehind } from '../xapi/follow';
import { readNames } from '../xapi/people';
import { applyImport } from './apply';
import { coursesBeside } from './packageCourses';
import { bringMeetings } from './meetings';
import { importBeside } from './beside';
import { keepPlan, noteCounts, planned, type Imported, type Importing, type Target } from './importing';
import { keepSources, knownCourse } from './sources';
import { importStatements, previewStatements } from './statements';
import { planImport } from './plan';
import { savedMappings, saveMapping } from './mappings';
import { countsOf, isEmpty, previewOf } from './previewOf';
import type { CourseFiles } from './readFiles';
import { readUploads } from './readUploads';
import { sizeOf, type Upload, type UploadedFile } from '../staging/upload';
import { noteMappings, stage, staged, unstage } from '../staging/staging';
import type { FileCounts, ImportPreview, PastImport } from '@/core/views/intake';
import { lockCourse } from '@/data/write/underLock';

/** Bytes that the embedded database may write for each byte of a file: rows, indexes, derived rows and its log. */
const ROOM_PER_BYTE = 8;

/** Keeps files that are in memory, and says what importing them would do. Nothing of the course is changed. */
export async function previewImport(
  viewer: Viewer,
  code: string,
  uploads: readonly UploadedFile[],
): Promise<ImportPreview> {
  const course = await requireCourse(viewer, 'import', code);
  return previewStaged(viewer, code, await stage(course.id, viewer.userId, uploads));
}

/** Says what importing the files of an upload would do; it is kept for a day, or forgotten if there is nothing in it. */
export async function previewStaged(viewer: Viewer, code: string, id: string): Promise<ImportPreview> {
  const found = await preview(viewer, code, id, new Map());
  if (found.id == null) await unstage(id);
  return found;
}

/** Says how one file of an upload is read, under a name that is remembered if there is one, and looks at all again. */
export async function mapFile(
  viewer: Viewer,
  code: string,
  id: string,
  told: { readonly name: string; readonly mapping: Mapping; readonly saveAs: string | null },
): Promise<ImportPreview> {
  const course = await requireCourse(viewer, 'import', code);
  const kept = await staged(id, course.id, viewer.userId);
  const db = await database();
  const all = new Map([...kept.told, [told.name, told.mapping]]);
  const seen = await preview(viewer, code, id, all);
  const fault = seen.faults.find((f) => f.name === told.name);
  if (fault) throw invalid(`${fault.name}: ${fault.reason}`);
  if (told.saveAs) await saveMapping(db, course.id, viewer.userId, told.saveAs, told.mapping);
  return seen;
}

/**
 * Says what importing the files of an upload would do.
 *
 * @param told how files of a foreign make are read, by their names
 * @param known how they are read if it fits, before the mappings that are saved
 */
export async function preview(
  viewer: Viewer,
  code: string,
  id: string,
  told: ReadonlyMap<string, Mapping>,
  known: Mapping | null = null,
): Promise<ImportPreview> {
  const course = await requireCourse(viewer, 'import', code);
  const { uploads } = await staged(id, course.id, viewer.userId);
  if (uploads.length === 0) throw invalid('Choose at least one file.');
  const db = await database();
  const model = await loadCourseModel(db, course.id);
  const works = model.activities.map((a) => ({ id: a.externalId, title: a.title }));
  const saved = [
    ...(known ? [{ id: 0, name: 'as the last was read', mapping: known }] : []),
    ...(await savedMappings(db, course.id, viewer.userId)),
  ];
  const read = await readUploads(uploads, {
    code: course.code,
    zone: course.zone,
    told,
    saved,
    works,
    known: () => knownCourse(db, course.id),
  });
  const { files, statements, foreign, faults } = read;
  const plan = await planImport(db, model, files, viewer.userId, now());
  const previews = planned(plan, files)
    // A package says nothing of some kinds: there is nothing to show of those.
    .filter(({ file, changes }) => !file.assembled || !isEmpty(changes))
    .map(({ kind, file, changes }) => previewOf(kind, file, changes));
  if (statements.length > 0) {
    const names = await readNames(db, course.id, plan);
    for (const file of statements) previews.push(await previewStatements(db, course.id, file, names, now()));
  }
  // What was picked here is what goes in, whatever happens to the saved mappings until then.
  const picked = new Map(foreign.filter((f) => f.read).map((f) => [f.name, f.mapping]));
  await noteMappings(id, course.id, viewer.userId, picked);
  const beside = await coursesBeside(viewer.userId, read.courses);
  const any = previews.length + foreign.length + beside.length > 0;
  return {
    id: any ? id : null,
    files: previews,
    foreign,
    courses: beside,
    works,
    zone: course.zone,
    faults,
  };
}

/** Has staged files imported: what is good goes in, all of it or nothing. Returns the job to ask how far it is. */
export const commitImport = (viewer: Viewer, code: string, id: string): Promise<string> =>
  queueImport(viewer, code, id, 'import');

/** Puts an import into the queue. */
export async function queueImport(
  viewer: Viewer,
  code: string,
  upload: string,
  kind: 'import' | 'import every',
): Promise<string> {
  const course = await requireCourse(viewer, 'import', code);
  const { userId } = viewer;
  await staged(upload, course.id, userId);
  const job = await enqueue(await database(), {
    kind,
    payload: { courseId: course.id, userId, upload },
    userId,
    line: `import ${course.id}`,
    step: 'Reading the files',
  });
  wakeRunner();
  return job;
}

/** Imports staged files as the queue asks for it. */
export async function importStaged(
  db: Database,
  { courseId, userId, upload }: Payload<'import'>,
  { job, progress, stillMine }: Pick<Working, 'job' | 'progress' | 'stillMine'>,
): Promise<FileCounts[]> {
  const { uploads, told } = await staged(upload, courseId, userId);
  return importFiles(db, courseId, userId, uploads, now(), { told, jobId: job.id, progress, stillMine });
}

export interface ImportOptions {
  /** How files of a foreign make are read; without it by the mappings saved for the course. */
  readonly told?: ReadonlyMap<string, Mapping>;
  /** The job that asks for it: what it brought before a kill is not brought again. */
  readonly jobId?: string | null;
  readonly progress?: Progress;
  /** Asked in the transaction that lets everything be seen: an error ends it. */
  readonly stillMine?: (tx: Access) => Promise<void>;
  /** Rows that go in within one short transaction; more are prepared where nobody sees or waits for them. */
  readonly few?: number;
}

/** Brings files into a course that is there, for the page and for tools (which may have no user). */
export async function importFiles(
  db: Database,
  courseId: number,
  userId: string | null,
  uploads: readonly Upload[],
  at: Instant,
  options: ImportOptions = {},
): Promise<FileCounts[]> {
  const [about] = await db.orm.select().from(courses).where(eq(courses.id, courseId));
  if (!about) throw notFound('course');
  const earlier = await broughtBefore(db, courseId, options.jobId);
  if (earlier) return afterImport(db, { courseId, counts: earlier }, at, options);
  const saved = options.told ? [] : await savedMappings(db, courseId, userId);
  const make = () => Promise.resolve(courseId);
  const known = () => knownCourse(db, courseId);
  const { code, zone } = about;
  return importInto(db, { code, zone, saved, known, make }, userId, uploads, at, options);
}

/** So many rows hold nobody up. */
const FEW = 2000;

/**
 * The import itself: reads, decides and applies, and records it; as everybody sees it, all at once. What is wrong with
 * a whole file ends it, since the page has shown that before. Flags are evaluated after it.
 */
export async function importInto(
  db: Database,
  target: Target,
  userId: string | null,
  uploads: readonly Upload[],
  at: Instant,
  options: ImportOptions = {},
): Promise<FileCounts[]> {
  return afterImport(db, await readAndBring(db, target, userId, uploads, at, options), at, options);
}

/** What a job brought into a course, if its process was killed after it was in. */
async function broughtBefore(
  { orm }: Database,
  courseId: number,
  jobId: string | null | undefined,
): Promise<FileCounts[] | undefined> {
  if (jobId == null) return undefined;
  const [row] = await orm
    .select({ files: imports.files })
    .from(imports)
    .where(and(eq(imports.courseId, courseId), eq(imports.jobId, jobId), isNull(imports.arrivingUntil)));
  return row?.files;
}

async function afterImport(
  db: Database,
  { courseId, counts }: Imported,
  at: Instant,
  { progress }: ImportOptions,
): Promise<FileCounts[]> {
  wakeRunner();
  await peopleImported(db, courseId, counts);
  await evaluateNow(db, courseId, { at, progress });
  // Without statistics the planner takes a table that was just filled for an empty one.
  if (counts.some((c) => c.added >= MANY_ROWS)) {
    // What is in stays in, whatever comes of this.
    await tidy(db).catch((error: unknown) => void reportFailure('tidying up', error));
  }
  return counts;
}

/** On its own, so that what was read is in memory no longer than it is needed. */
async function readAndBring(
  db: Database,
  target: Target,
  userId: string | null,
  uploads: readonly Upload[],
  at: Instant,
  { told, jobId = null, progress = unwatched, stillMine = () => Promise.resolve(), few = FEW }: ImportOptions,
): Promise<Imported> {
  await needSpace(ROOM_PER_BYTE * uploads.reduce((sum, f) => sum + sizeOf(f), 0));
  await progress('Reading the files');
  const { code, zone, saved, known } = target;
  const read = await readUploads(uploads, { code, zone, saved, known, told }, progress);
  const all: readonly { readonly rows: readonly unknown[] }[] = [
    ...Object.values(read.files),
    ...read.statements,
  ];
  const many = all.reduce((sum, f) => sum + f.rows.length, 0) > few;
  const how = { target, read, userId, at, jobId, progress, stillMine };
  return many ? importBeside(db, how) : importTogether(db, how);
}

const MANY_ROWS = 5000;

/** Reads, decides and writes a few rows in one transaction. */
async function importTogether(
  db: Database,
  { target, read: { files, statements, packages }, userId, at, jobId, progress, stillMine }: Importing,
): Promise<Imported> {
  await progress('Comparing with what is there');
  return db.transaction(async (tx) => {
    const courseId = await target.make(tx);
    await lockCourse(tx, courseId);
    const [made] = await tx.orm
      .insert(imports)
      .values({ courseId, userId, at: nowDate(), files: [], jobId })
      .returning({ id: imports.id });
    const first = !(await hasEvents(tx, courseId));
    const told: FileCounts[] = [];
    const model = await loadCourseModel(tx, courseId);
    const rows = await importPlanned(tx, model, files, { userId, at, importId: made!.id });
    for (const file of statements) told.push(await importStatements(tx, courseId, made!.id, file, at));
    if (told.length > 0) {
      await noteCounts(tx, made!.id, [...rows, ...told]);
      if (first) await startHistory(tx, courseId);
      await deriveBehind(tx, courseId);
    }
    await bringMeetings(tx, courseId, packages);
    await keepSources(tx, courseId, packages);
    await stillMine(tx);
    return { courseId, counts: [...rows, ...told] };
  });
}

interface PlannedImport {
  readonly userId: string | null;
  readonly at: Instant;
  readonly importId: number;
  /** Counts of other files of the same import. */
  readonly more?: readonly FileCounts[];
}

/** Decides and applies read files as one import, inside a transaction that holds the course. */
export async function importPlanned(
  tx: Access,
  model: CourseModel,
  files: CourseFiles,
  { userId, at, importId, more = [] }: PlannedImport,
): Promise<FileCounts[]> {
  const plan = await planImport(tx, model, files, userId, at);
  await keepPlan(tx, importId, model, plan, files, at);
  await applyImport(tx, model, plan, { importId });
  const done = planned(plan, files).map(({ kind, file, changes }) => countsOf(kind, file.name, changes));
  await noteCounts(tx, importId, [...more, ...done]);
  return done;
}

/** What was imported into a course, the newest first. */
export async function pastImports(viewer: Viewer, code: string): Promise<PastImport[]> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const rows = await orm
    .select({ past: imports, by: user.name })
    .from(imports)
    .leftJoin(user, eq(user.id, imports.userId))
    .where(and(eq(imports.courseId, course.id), isNull(imports.arrivingUntil)))
    .orderBy(desc(imports.id))
    .limit(50);
  return rows.map(({ past, by }) => ({
    id: past.id,
    at: past.at.getTime(),
    by,
    ofColleague: past.userId != null && past.userId !== viewer.userId,
    files: past.files,
    undoneAt: past.undoneAt?.getTime() ?? null,
  }));
}
