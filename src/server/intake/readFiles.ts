import { decodeText, parseCsv } from '@/core/formats/csv';
import {
  activitiesSpec,
  attemptsSpec,
  eventsSpec,
  fileKindOf,
  gradebookSpec,
  outcomesSpec,
  rosterSpec,
  type ActivityRecord,
  type AttemptRecord,
  type EventRecord,
  type FileKind,
  type GradebookRecord,
  type OutcomeRecord,
  type RosterRecord,
} from '@/core/formats/courseFiles';
import { readTable, type ReadTable, type TableSpec } from '@/core/formats/table';
import { looksLikeStatements, readStatementFile, type ReadStatements } from '@/core/formats/xapi/file';
import { no, ok, type Result } from '@/core/result';
import type { FileFault } from '@/core/views/intake';
import type { RosteredCourse } from '@/core/formats/oneroster/read';
import { unpack, type ReadFor } from './packages';
import type { UploadedFile } from './upload';

/** A file of statements, with its name. */
export type StatementFile = ReadStatements & { readonly name: string };

/** The record type of each kind of file. */
export interface RecordOf {
  outcomes: OutcomeRecord;
  activities: ActivityRecord;
  roster: RosterRecord;
  gradebook: GradebookRecord;
  attempts: AttemptRecord;
  events: EventRecord;
}

export type ReadOf<K extends FileKind> = ReadTable<RecordOf[K]> & { readonly name: string };
export type CourseFiles = { [K in FileKind]?: ReadOf<K> };

const SPECS: { [K in FileKind]: TableSpec<RecordOf[K]> } = {
  outcomes: outcomesSpec,
  activities: activitiesSpec,
  roster: rosterSpec,
  gradebook: gradebookSpec,
  attempts: attemptsSpec,
  events: eventsSpec,
};

/** Header line only, so that the kind is known before a hundred thousand rows are read. */
function kindOf(text: string): Result<FileKind> {
  // A header line is never this long; reading more would split every row twice.
  const end = text.indexOf('\n');
  const header = parseCsv(end < 0 ? text : text.slice(0, end));
  if (!header.ok)
    return parseCsv(text.slice(0, 1000)).ok ? no('line 1: has no header') : no('the file is empty');
  const kind = fileKindOf(header.value.header);
  return kind
    ? ok(kind)
    : no(
        'line 1: the columns are those of none of our files: event_id for events, student_id, activity_id and attempt for attempts, student_id and activity_id for the gradebook, student_id and given_name for the roster, activity_id for activities, outcome_id for outcomes',
      );
}

/**
 * Unpacks, decodes and reads uploaded files into records. A file that cannot be read at all is a fault with its reason; the
 * others are not held up by it.
 */
export function readFiles(
  uploads: readonly UploadedFile[],
  about: ReadFor,
): {
  files: CourseFiles;
  statements: StatementFile[];
  packages: RosteredCourse[];
  faults: FileFault[];
} {
  const files: CourseFiles = {};
  const statements: StatementFile[] = [];
  const unpacked = unpack(uploads, about);
  const faults: FileFault[] = [...unpacked.faults];
  for (const { name, course } of unpacked.packages) {
    const other = (['activities', 'roster', 'gradebook'] as const).find((k) => files[k]);
    if (other) {
      faults.push({ name, reason: `brings a second ${other} file; import one after the other` });
      continue;
    }
    files.activities = { ...course.activities, name };
    files.roster = { ...course.roster, name };
    files.gradebook = { ...course.gradebook, name };
  }
  for (const { name, bytes } of unpacked.files) {
    const fault = readInto(files, statements, name, bytes);
    if (fault) faults.push({ name, reason: fault });
  }
  return { files, statements, packages: unpacked.packages.map((p) => p.course), faults };
}

function readInto(
  files: CourseFiles,
  statements: StatementFile[],
  name: string,
  bytes: Uint8Array,
): string | null {
  const text = decodeText(bytes);
  if (!text.ok) return text.reason;
  if (looksLikeStatements(text.value)) {
    const read = readStatementFile(text.value);
    if (!read.ok) return read.reason;
    statements.push({ name, ...read.value });
    return null;
  }
  const kind = kindOf(text.value);
  if (!kind.ok) return kind.reason;
  const other = files[kind.value];
  if (other) return `is a second ${kind.value} file beside ${other.name}; import one after the other`;
  const read = <K extends FileKind>(k: K): Result<ReadOf<K>> => {
    const table = readTable(text.value, SPECS[k]);
    return table.ok ? ok({ ...table.value, name }) : table;
  };
  const put = <K extends FileKind>(k: K): string | null => {
    const result = read(k);
    if (!result.ok) return result.reason;
    (files as { [P in K]?: ReadOf<P> })[k] = result.value;
    return null;
  };
  return put(kind.value);
}
