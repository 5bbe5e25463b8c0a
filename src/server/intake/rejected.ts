import { writeCsv } from '@/core/formats/csv';
import type { FileKind } from '@/core/course/records';
import type { RejectedRow } from '@/core/formats/table';
import { now } from '../base/clock';
import { database } from '../base/database';
import { loadCourseModel } from '@/data/queries/courseModel';
import { notFound } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';
import { asTheyStood } from './previewOf';
import { planImport } from './plan';
import type { CourseFiles, StatementFile } from './readFiles';
import { readUploads } from './readUploads';
import { knownCourse } from './sources';
import { staged } from '../staging/staging';
import { REJECTED_HEADER, sortStatements } from './statements';

/** The rejected rows of one staged file as CSV: as they stood, with line, field and reason in front. */
export async function rejectedCsv(
  viewer: Viewer,
  code: string,
  id: string,
  kind: FileKind | 'statements',
): Promise<string> {
  const course = await requireCourse(viewer, 'import', code);
  const { uploads, told } = await staged(id, course.id, viewer.userId);
  const db = await database();
  const read = await readUploads(uploads, {
    code: course.code,
    zone: course.zone,
    told,
    known: () => knownCourse(db, course.id),
  });
  const { header, rows } =
    kind === 'statements'
      ? await rejectedStatements(course.id, read.statements)
      : await rejectedRows(course.id, viewer, read.files, kind);
  return writeCsv(
    ['line', 'field', 'reason', ...header],
    rows.map((row) => [row.line, row.field, row.reason, ...row.cells]),
  );
}

async function rejectedRows(courseId: number, viewer: Viewer, files: CourseFiles, kind: FileKind) {
  const file = files[kind];
  if (!file) throw notFound('file of that kind in the upload');
  const db = await database();
  const plan = await planImport(db, await loadCourseModel(db, courseId), files, viewer.userId, now());
  return asTheyStood(file, plan[kind]?.rejected ?? []);
}

async function rejectedStatements(courseId: number, files: readonly StatementFile[]) {
  if (files.length === 0) throw notFound('file of that kind in the upload');
  const db = await database();
  const rows: RejectedRow[] = [];
  for (const file of files) rows.push(...(await sortStatements(db, courseId, file)).rejected);
  return { header: REJECTED_HEADER, rows };
}
