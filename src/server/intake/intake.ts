import { desc, eq, sql } from 'drizzle-orm';
import type { Changes } from '@/core/formats/classify';
import { FILE_KINDS, type FileKind } from '@/core/formats/courseFiles';
import { writeCsv } from '@/core/formats/csv';
import type { RejectedRow } from '@/core/formats/table';
import type { Instant } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { courses, imports, user } from '@/data/schema';
import { now, nowDate } from '../clock';
import { database } from '../database';
import { loadCourseModel, lockCourse, type CourseModel } from '../derive/courseModel';
import { hasEvents } from '../derive/classRecord';
import { startHistory } from '../derive/evaluate';
import { evaluateNow } from '../evaluation';
import { invalid, notFound } from '../errors';
import { needSpace } from '../failure';
import { requireTaught, type Viewer } from '../viewer';
import { catchUp } from '../xapi/follow';
import { applyImport } from './apply';
import { bringMeetings } from './meetings';
import { keepChanges, keepWaiting } from './keep';
import { importStatements, previewStatements } from './statements';
import { planImport, type ImportPlan } from './plan';
import { readFiles, type CourseFiles } from './readFiles';
import type { UploadedFile } from './upload';
import { stage, staged } from './staging';
import type { FileCounts, FilePreview, ImportPreview, PastImport, PreviewRow } from '@/core/views/intake';

/** Limits of an upload: more is refused before it is read. */
export const UPLOAD_LIMITS = { files: 12, bytes: 200 * 1024 * 1024 } as const;
/** Bytes that the embedded database may write for each byte of a file: rows, indexes, derived rows and its log. */
const ROOM_PER_BYTE = 8;
/** Rows of each sort shown in a preview; the counts are always whole. */
const SHOWN = 200;

function countsOf(kind: FileKind, name: string, changes: Changes<unknown>): FileCounts {
  return {
    file: name,
    kind,
    added: changes.added.length,
    changed: changes.changed.length,
    unchanged: changes.unchanged,
    rejected: changes.rejected.length,
    waiting: changes.waiting.length,
  };
}

/** The planned changes with their files, in the order in which they are read. */
function planned(plan: ImportPlan, files: CourseFiles) {
  return FILE_KINDS.flatMap((kind) => {
    const changes: Changes<unknown> | undefined = plan[kind];
    const file = files[kind];
    return changes && file ? [{ kind, file, changes }] : [];
  });
}

/** Reads uploaded files and says what importing them would do. Nothing is changed; the files are kept for a day. */
export async function previewImport(
  viewer: Viewer,
  code: string,
  uploads: readonly UploadedFile[],
): Promise<ImportPreview> {
  const course = await requireTaught(viewer, code);
  if (uploads.length === 0) throw invalid('Choose at least one file.');
  const { files, statements, faults } = readFiles(uploads, course);
  const db = await database();
  const model = await loadCourseModel(db, course.id);
  const plan = await planImport(db, model, files, viewer.userId, now());
  const shown = (row: {
    line: number;
    cells: readonly string[];
    field?: string;
    reason?: string;
  }): PreviewRow => ({
    line: row.line,
    cells: row.cells.map((c) => c.slice(0, 120)),
    field: row.field ?? '',
    reason: row.reason ?? '',
  });
  const previews = planned(plan, files).map(({ kind, file, changes }): FilePreview => ({
    kind,
    name: file.name,
    header: file.header,
    counts: countsOf(kind, file.name, changes),
    added: changes.added.slice(0, SHOWN).map(shown),
    changed: changes.changed.slice(0, SHOWN).map(shown),
    rejected: changes.rejected.slice(0, SHOWN).map(shown),
    waiting: changes.waiting.slice(0, SHOWN).map(shown),
  }));
  for (const file of statements) previews.push(await previewStatements(db, course.id, file, now()));
  await needSpace(uploads.reduce((sum, f) => sum + f.bytes.length, 0));
  const id = previews.length > 0 ? await stage(course.id, viewer.userId, uploads) : null;
  return { id, files: previews, faults };
}

/** Imports staged files: what is good goes in, in one transaction. */
export async function commitImport(viewer: Viewer, code: string, id: string): Promise<FileCounts[]> {
  const course = await requireTaught(viewer, code);
  const uploads = await staged(id, course.id, viewer.userId);
  return importFiles(await database(), course.id, viewer.userId, uploads, now());
}

/**
 * The import itself, for the page and for tools (which may have no user): reads, decides and applies in one transaction, and records it.
 * What is wrong with a whole file ends it, since the page has shown that before.
 */
export async function importFiles(
  db: Database,
  courseId: number,
  userId: string | null,
  uploads: readonly UploadedFile[],
  at: Instant,
): Promise<FileCounts[]> {
  await needSpace(ROOM_PER_BYTE * uploads.reduce((sum, f) => sum + f.bytes.length, 0));
  const [about] = await db.orm.select().from(courses).where(eq(courses.id, courseId));
  if (!about) throw notFound('course');
  const { files, statements, packages } = readFiles(uploads, about);
  const counts = await db.transaction(async (tx) => {
    await lockCourse(tx, courseId);
    const [made] = await tx.orm
      .insert(imports)
      .values({ courseId, userId, at: nowDate(), files: [] })
      .returning({ id: imports.id });
    const first = !(await hasEvents(tx, courseId));
    const told: FileCounts[] = [];
    const model = await loadCourseModel(tx, courseId);
    const rows = await importPlanned(tx, model, files, userId, at, made!.id);
    for (const file of statements) told.push(await importStatements(tx, db, courseId, made!.id, file, at));
    if (told.length > 0) {
      await noteCounts(tx, made!.id, [...rows, ...told]);
      if (first) await startHistory(tx, courseId);
    }
    await bringMeetings(tx, courseId, packages);
    return [...rows, ...told];
  });
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

/** Decides and applies read files as one import, inside a transaction that holds the course. */
export async function importPlanned(
  tx: Access,
  model: CourseModel,
  files: CourseFiles,
  userId: string | null,
  at: Instant,
  importId: number,
  more: readonly FileCounts[] = [],
): Promise<FileCounts[]> {
  const plan = await planImport(tx, model, files, userId, at);
  await keepChanges(tx, importId, plan);
  await keepWaiting(tx, model.row.id, importId, plan, at);
  await applyImport(tx, model, plan, at, importId);
  const done = planned(plan, files).map(({ kind, file, changes }) => countsOf(kind, file.name, changes));
  await noteCounts(tx, importId, [...more, ...done]);
  return done;
}

const noteCounts = ({ orm }: Access, importId: number, files: FileCounts[]) =>
  orm.update(imports).set({ files }).where(eq(imports.id, importId));

/** The rejected rows of one staged file as CSV: as they stood, with line, field and reason in front. */
export async function rejectedCsv(viewer: Viewer, code: string, id: string, kind: FileKind): Promise<string> {
  const course = await requireTaught(viewer, code);
  const { files } = readFiles(await staged(id, course.id, viewer.userId), course);
  const file = files[kind];
  if (!file) throw notFound('file of that kind in the upload');
  const db = await database();
  const plan = await planImport(db, await loadCourseModel(db, course.id), files, viewer.userId, now());
  const rejected: readonly RejectedRow[] = plan[kind]?.rejected ?? [];
  return writeCsv(
    ['line', 'field', 'reason', ...file.header],
    rejected.map((row) => [row.line, row.field, row.reason, ...row.cells]),
  );
}

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
