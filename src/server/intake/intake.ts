import { desc, eq, sql } from 'drizzle-orm';
import type { Changes } from '@/core/formats/classify';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import type { Mapping } from '@/core/formats/mapping/mapping';
import type { Instant } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { courses, imports, user } from '@/data/schema';
import { now, nowDate } from '../clock';
import { database } from '../database';
import { loadCourseModel, lockCourse, type CourseModel } from '../derive/courseModel';
import { hasEvents } from '../derive/classRecord';
import { startHistory } from '../derive/evaluate';
import { peopleImported } from '../derive/peopleChanged';
import { evaluateNow } from '../evaluation';
import { invalid, notFound } from '../errors';
import { needSpace } from '../failure';
import { startJob, unwatched, type Progress } from '../jobs';
import { requireTaught, type Viewer } from '../viewer';
import { catchUp } from '../xapi/follow';
import { readNames } from '../xapi/people';
import { applyImport } from './apply';
import { coursesBeside } from './packageCourses';
import { bringMeetings } from './meetings';
import { keepChanges, keepMade, keepWaiting } from './keep';
import { keepSources, knownCourse } from './sources';
import { importStatements, previewStatements } from './statements';
import { planImport, type ImportPlan } from './plan';
import { savedMappings, saveMapping } from './mappings';
import { countsOf, isEmpty, previewOf } from './previewOf';
import type { CourseFiles, ReadAbout } from './readFiles';
import { readUploads } from './readUploads';
import { sizeOf, type Upload, type UploadedFile } from './upload';
import { noteMappings, stage, staged, unstage } from './staging';
import type { FileCounts, ImportPreview, PastImport } from '@/core/views/intake';

/** Bytes that the embedded database may write for each byte of a file: rows, indexes, derived rows and its log. */
const ROOM_PER_BYTE = 8;

/** The planned changes with their files, in the order in which they are read. */
function planned(plan: ImportPlan, files: CourseFiles) {
  return FILE_KINDS.flatMap((kind) => {
    const changes: Changes<unknown> | undefined = plan[kind];
    const file = files[kind];
    return changes && file ? [{ kind, file, changes }] : [];
  });
}

/** Keeps files that are in memory, and says what importing them would do. Nothing of the course is changed. */
export async function previewImport(
  viewer: Viewer,
  code: string,
  uploads: readonly UploadedFile[],
): Promise<ImportPreview> {
  const course = await requireTaught(viewer, code);
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
  const course = await requireTaught(viewer, code);
  const kept = await staged(id, course.id, viewer.userId);
  const db = await database();
  const all = new Map([...kept.told, [told.name, told.mapping]]);
  const seen = await preview(viewer, code, id, all);
  const fault = seen.faults.find((f) => f.name === told.name);
  if (fault) throw invalid(`${fault.name}: ${fault.reason}`);
  if (told.saveAs) await saveMapping(db, course.id, viewer.userId, told.saveAs, told.mapping);
  return seen;
}

async function preview(
  viewer: Viewer,
  code: string,
  id: string,
  told: ReadonlyMap<string, Mapping>,
): Promise<ImportPreview> {
  const course = await requireTaught(viewer, code);
  const { uploads } = await staged(id, course.id, viewer.userId);
  if (uploads.length === 0) throw invalid('Choose at least one file.');
  const db = await database();
  const model = await loadCourseModel(db, course.id);
  const works = model.activities.map((a) => ({ id: a.externalId, title: a.title }));
  const saved = await savedMappings(db, course.id, viewer.userId);
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
  const beside = await coursesBeside(viewer, read.courses);
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

/** Begins to import staged files: what is good goes in, in one transaction. Returns the job to ask how far it is. */
export async function commitImport(viewer: Viewer, code: string, id: string): Promise<string> {
  const course = await requireTaught(viewer, code);
  const { uploads, told } = await staged(id, course.id, viewer.userId);
  return startJob(viewer.userId, 'Reading the files', async (progress) =>
    importFiles(await database(), course.id, viewer.userId, uploads, now(), { told, progress }),
  );
}

export interface ImportOptions {
  /** How files of a foreign make are read; without it by the mappings saved for the course. */
  readonly told?: ReadonlyMap<string, Mapping>;
  readonly progress?: Progress;
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
  const saved = options.told ? [] : await savedMappings(db, courseId, userId);
  const make = () => Promise.resolve(courseId);
  const known = () => knownCourse(db, courseId);
  const { code, zone } = about;
  return importInto(db, { code, zone, saved, known, make }, userId, uploads, at, options);
}

/** Where an import goes. */
interface Target extends Pick<ReadAbout, 'code' | 'zone' | 'saved' | 'known'> {
  /** Its id; a course that is not there yet is made, in the transaction of the import. */
  readonly make: (tx: Access) => Promise<number>;
}

/**
 * The import itself: reads, decides and applies in one transaction, and records it. What is wrong with a whole file
 * ends it, since the page has shown that before.
 */
export async function importInto(
  db: Database,
  { make, ...reading }: Target,
  userId: string | null,
  uploads: readonly Upload[],
  at: Instant,
  { told, progress = unwatched }: ImportOptions = {},
): Promise<FileCounts[]> {
  await needSpace(ROOM_PER_BYTE * uploads.reduce((sum, f) => sum + sizeOf(f), 0));
  await progress('Reading the files');
  const { files, statements, packages } = await readUploads(uploads, { ...reading, told }, progress);
  const { courseId, counts } = await db.transaction(async (tx) => {
    const courseId = await make(tx);
    await lockCourse(tx, courseId);
    const [made] = await tx.orm
      .insert(imports)
      .values({ courseId, userId, at: nowDate(), files: [] })
      .returning({ id: imports.id });
    const first = !(await hasEvents(tx, courseId));
    const told: FileCounts[] = [];
    const model = await loadCourseModel(tx, courseId);
    await progress('Comparing with what is there');
    const rows = await importPlanned(tx, model, files, { userId, at, importId: made!.id, progress });
    for (const file of statements)
      told.push(await importStatements(tx, courseId, made!.id, file, at, progress));
    if (told.length > 0) {
      await noteCounts(tx, made!.id, [...rows, ...told]);
      if (first) await startHistory(tx, courseId);
    }
    await bringMeetings(tx, courseId, packages);
    await keepSources(tx, courseId, packages);
    return { courseId, counts: [...rows, ...told] };
  });
  await peopleImported(db, courseId, counts);
  if (statements.length + packages.length > 0) {
    await catchUp(db, courseId);
    await evaluateNow(courseId);
  }
  // Without statistics the planner takes a table that was just filled for an empty one.
  if (counts.some((c) => c.added >= MANY_ROWS)) {
    await db.orm.execute(sql`analyze events, scores, sessions, day_totals, activity_days, activity_totals`);
  }
  return counts;
}

const MANY_ROWS = 5000;

interface PlannedImport {
  readonly userId: string | null;
  readonly at: Instant;
  readonly importId: number;
  /** Counts of other files of the same import. */
  readonly more?: readonly FileCounts[];
  readonly progress?: Progress;
}

/** Decides and applies read files as one import, inside a transaction that holds the course. */
export async function importPlanned(
  tx: Access,
  model: CourseModel,
  files: CourseFiles,
  { userId, at, importId, more = [], progress = unwatched }: PlannedImport,
): Promise<FileCounts[]> {
  const plan = await planImport(tx, model, files, userId, at);
  await keepChanges(tx, importId, plan);
  await keepMade(tx, importId, model, plan);
  await keepWaiting(tx, model.row.id, importId, plan, at, files.gradebook?.absent ?? []);
  await applyImport(tx, model, plan, at, { importId, progress });
  const done = planned(plan, files).map(({ kind, file, changes }) => countsOf(kind, file.name, changes));
  await noteCounts(tx, importId, [...more, ...done]);
  return done;
}

const noteCounts = ({ orm }: Access, importId: number, files: FileCounts[]) =>
  orm.update(imports).set({ files }).where(eq(imports.id, importId));

/** What was imported into a course, the newest first. */
export async function pastImports(viewer: Viewer, code: string): Promise<PastImport[]> {
  const course = await requireTaught(viewer, code);
  const { orm } = await database();
  const rows = await orm
    .select({ past: imports, by: user.name })
    .from(imports)
    .leftJoin(user, eq(user.id, imports.userId))
    .where(eq(imports.courseId, course.id))
    .orderBy(desc(imports.id))
    .limit(50);
  return rows.map(({ past, by }) => ({
    id: past.id,
    at: past.at.getTime(),
    by,
    files: past.files,
    undoneAt: past.undoneAt?.getTime() ?? null,
  }));
}
