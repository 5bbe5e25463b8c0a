import type { Changes, Placed } from '@/core/formats/classify';
import type { FileKind } from '@/core/course/records';
import type { RejectedRow } from '@/core/formats/table';
import { fileTable } from '@/core/formats/writeCourseFiles';
import type { FileCounts, FilePreview, PreviewRow } from '@/core/views/intake';
import type { ReadOf } from './readFiles';

/** Rows of each sort shown in a preview; the counts are always whole. */
const SHOWN = 200;

/** Whether a file says nothing at all. */
export const isEmpty = ({ added, changed, unchanged, waiting, rejected }: Changes<unknown>): boolean =>
  added.length + changed.length + unchanged + waiting.length + rejected.length === 0;

/** How many rows of a file are new, changed, unchanged, rejected and waiting. */
export function countsOf(kind: FileKind, name: string, changes: Changes<unknown>): FileCounts {
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

/** What one file would do, row by row. */
export function previewOf(kind: FileKind, file: ReadOf<FileKind>, changes: Changes<unknown>): FilePreview {
  const rowOf = (line: number, cells: readonly string[], field = '', reason = ''): PreviewRow => ({
    line,
    cells: cells.map((c) => c.slice(0, 120)),
    field,
    reason,
  });
  // What was put together from several files is shown as our own file of the kind would have it.
  const head = file.assembled ? fileTable(kind, []).head : file.header;
  const cellsOf = (row: Placed<unknown>) =>
    file.assembled
      ? fileTable(kind, [row.value as never]).rows[0]!.map((cell) => String(cell ?? ''))
      : row.cells;
  const good = (rows: readonly Placed<unknown>[]) =>
    rows.slice(0, SHOWN).map((row) => rowOf(row.line, cellsOf(row)));
  const rejected = asTheyStood(file, changes.rejected.slice(0, SHOWN));
  return {
    kind,
    name: file.name,
    header: head,
    rejectedHeader: rejected.header,
    counts: countsOf(kind, file.name, changes),
    added: good(changes.added),
    changed: good(changes.changed),
    waiting: good(changes.waiting),
    rejected: rejected.rows.map((r) => rowOf(r.line, r.cells, r.field, r.reason)),
  };
}

/** Rejected rows under the header that they had; those of a package had several, and stand in one column each. */
export function asTheyStood(file: ReadOf<FileKind>, rejected: readonly RejectedRow[]) {
  if (!file.assembled) return { header: file.header, rows: rejected };
  return {
    header: ['row as it stands'],
    rows: rejected.map((row) => ({ ...row, cells: [row.cells.join(',')] })),
  };
}
