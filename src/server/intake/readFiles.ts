import { decodeText, parseCsv, type CsvTable } from '@/core/formats/csv';
import { fileKindOf, SPECS } from '@/core/formats/courseFiles';
import { type FileKind, type RecordOf } from '@/core/course/records';
import { applyMapping } from '@/core/formats/mapping/apply';
import { fitting, type Mapping } from '@/core/course/mapping';
import { suggestMapping, type KnownWork } from '@/core/formats/mapping/suggest';
import { readTableInSteps, type ReadTable, type TableSpec } from '@/core/formats/table';
import { looksLikeStatements, readStatementsInSteps, type ReadStatements } from '@/core/formats/xapi/file';
import { no, type Result } from '@/core/result';
import type { FileFault, ForeignPreview } from '@/core/views/intake';
import type { KnownCourse } from '@/core/formats/oneroster/known';
import type { OneRosterCourse, RosteredCourse } from '@/core/formats/oneroster/read';
import { inTurns } from '../base/turns';
import { foreignPreview, type ForeignFile } from './foreign';
import type { SavedMapping } from './mappings';
import { unpack, type ReadFor } from './packages';
import type { UploadedFile } from '../staging/upload';

/** A file of statements, with its name. */
export type StatementFile = ReadStatements & { readonly name: string };

export type ReadOf<K extends FileKind> = ReadTable<RecordOf[K]> & { readonly name: string };
export type CourseFiles = { [K in FileKind]?: ReadOf<K> };

/** Header line only, so that the kind is known before a hundred thousand rows are read. */
function headerOf(text: string): Result<CsvTable> {
  // A header line is never this long; reading more would split every row twice.
  const end = text.indexOf('\n');
  const header = parseCsv(end < 0 ? text : text.slice(0, end));
  if (header.ok || header.reason.startsWith('line 1:')) return header;
  return parseCsv(text.slice(0, 1000)).ok ? no('line 1: has no header') : no('the file is empty');
}

/** What reading files needs to know beside them. */
export interface ReadAbout extends ReadFor {
  /** Mappings told for files of this upload, by name of the file. */
  readonly told?: ReadonlyMap<string, Mapping>;
  readonly saved?: readonly SavedMapping[];
  readonly works?: readonly KnownWork[];
  /** What earlier packages said of the course. */
  readonly known?: () => Promise<KnownCourse>;
}

/** What a package says of its course beside the records of its files. */
export type PackageAbout = Omit<RosteredCourse, 'activities' | 'roster' | 'gradebook'>;

export interface ReadUploads {
  readonly files: CourseFiles;
  readonly statements: readonly StatementFile[];
  readonly packages: readonly PackageAbout[];
  /** Every course of the packages. */
  readonly courses: readonly OneRosterCourse[];
  readonly foreign: readonly ForeignPreview[];
  readonly faults: readonly FileFault[];
}

/**
 * Unpacks, decodes and reads uploaded files into records. A file that cannot be read at all is a fault with its reason; the
 * others are not held up by it. A table that is none of our own is read by the mapping told for it, or else by a saved
 * one that fits; without either it is handed back with a guess. Others have their turn while a long file is read.
 */
export async function readFiles(uploads: readonly UploadedFile[], about: ReadAbout): Promise<ReadUploads> {
  const files: CourseFiles = {};
  const statements: StatementFile[] = [];
  const foreign: ForeignFile[] = [];
  const unpacked = await unpack(uploads, about, about.known);
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
    const fault = await readInto({ files, statements, foreign, about }, name, bytes);
    if (fault) faults.push({ name, reason: fault });
  }
  const packages = unpacked.packages.map(({ course }): PackageAbout => {
    const { activities: _, roster: __, gradebook: ___, ...about } = course;
    return about;
  });
  const { courses } = unpacked;
  return { files, statements, packages, courses, foreign: foreign.map(foreignPreview), faults };
}

interface Into {
  readonly files: CourseFiles;
  readonly statements: StatementFile[];
  readonly foreign: ForeignFile[];
  readonly about: ReadAbout;
}

/** Reads one file to where it belongs; the reason if it cannot be read. */
async function readInto(into: Into, name: string, bytes: Uint8Array): Promise<string | null> {
  const text = decodeText(bytes);
  if (!text.ok) return text.reason;
  if (looksLikeStatements(text.value)) {
    const read = await inTurns(readStatementsInSteps(text.value));
    if (!read.ok) return read.reason;
    into.statements.push({ name, ...read.value });
    return null;
  }
  const header = headerOf(text.value);
  if (!header.ok) return header.reason;
  const told = into.about.told?.get(name);
  const kind = told ? null : fileKindOf(header.value.header);
  if (!kind) return readForeign(into, name, text.value, told ?? null, null);
  const spec = SPECS[kind] as TableSpec<RecordOf[FileKind]>;
  const read = await inTurns(readTableInSteps<RecordOf[FileKind]>(text.value, spec, bytes));
  // It looks like one of our own, and lacks a column: it may be a foreign one all the same.
  if (!read.ok)
    return read.reason.startsWith('line 1:')
      ? readForeign(into, name, text.value, null, read.reason)
      : read.reason;
  return put(into.files, kind, { ...read.value, name });
}

function readForeign(
  { files, foreign, about }: Into,
  name: string,
  text: string,
  told: Mapping | null,
  reason: string | null,
): string | null {
  const parsed = parseCsv(text);
  if (!parsed.ok) return parsed.reason;
  const table = parsed.value;
  const saved = told ? null : fitting(about.saved ?? [], table.header);
  const mapping = told ?? saved?.mapping ?? null;
  if (!mapping) {
    // A header with one word is no table of anything.
    if (table.header.length < 2)
      return reason ?? 'line 1: there is only one column, so it is no table of ours or others';
    const guess = suggestMapping(table, about.works ?? [], about.zone);
    foreign.push({ name, table, mapping: guess, saved: null, read: false, reason });
    return null;
  }
  const read = applyMapping(table, mapping);
  if (!read.ok) return read.reason;
  foreign.push({ name, table, mapping, saved: saved?.name ?? null, read: true, reason: null });
  return put(files, read.value.kind, { ...read.value, name });
}

function put(files: CourseFiles, kind: FileKind, read: ReadOf<FileKind>): string | null {
  const other = files[kind];
  if (other) return `is a second ${kind} file beside ${other.name}; import one after the other`;
  (files as Record<FileKind, ReadOf<FileKind>>)[kind] = read;
  return null;
}
