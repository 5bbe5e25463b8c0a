import { writeCsv } from '@/core/formats/csv';
import { FILE_KINDS, type FileKind } from '@/core/course/records';
import { fileTable, type FileRecords } from '@/core/formats/writeCourseFiles';
import type { Scenario } from './scenario';

/** A scenario as the files that a course hands over: what the importer reads. */
export function scenarioFiles(s: Scenario): Record<FileKind, string> {
  const records: FileRecords = { ...s, roster: s.students.map((student) => student.roster) };
  const text = <K extends FileKind>(kind: K) => {
    const { head, rows } = fileTable(kind, records[kind]);
    return writeCsv(head, rows);
  };
  return Object.fromEntries(FILE_KINDS.map((kind) => [kind, text(kind)])) as Record<FileKind, string>;
}
