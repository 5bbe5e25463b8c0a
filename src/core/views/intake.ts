import type { FileKind } from '../course/records';
import type { Mapping } from '../course/mapping';
import type { Instant } from '../units';

/** Counts of one file of an import. */
export interface FileCounts {
  readonly file: string;
  readonly kind: string;
  readonly added: number;
  readonly changed: number;
  readonly unchanged: number;
  readonly rejected: number;
  /** Rows of people nobody knows yet. */
  readonly waiting: number;
}

export interface FileFault {
  readonly name: string;
  readonly reason: string;
}

export interface PreviewRow {
  readonly line: number;
  readonly cells: readonly string[];
  /** Empty but for a rejected row. */
  readonly field: string;
  readonly reason: string;
}

export interface FilePreview {
  readonly kind: FileKind | 'statements';
  readonly name: string;
  readonly header: readonly string[];
  /** Columns of the rejected rows, as they stood. */
  readonly rejectedHeader: readonly string[];
  readonly counts: FileCounts;
  readonly added: readonly PreviewRow[];
  readonly changed: readonly PreviewRow[];
  readonly rejected: readonly PreviewRow[];
  readonly waiting: readonly PreviewRow[];
}

/** A table of a foreign make: how it is read, or would be if that is right. */
export interface ForeignPreview {
  readonly name: string;
  readonly delimiter: string;
  readonly columns: readonly {
    readonly name: string;
    /** Its different values, if they are few. */
    readonly values: readonly string[] | null;
  }[];
  /** The first rows, as they stand. */
  readonly rows: readonly { readonly line: number; readonly cells: readonly string[] }[];
  readonly mapping: Mapping;
  /** Name of the saved mapping that was picked by itself. */
  readonly saved: string | null;
  /** Whether it was read that way; else somebody has to say how. */
  readonly read: boolean;
  /** Why it is not one of our own files, if it looks like one. */
  readonly reason: string | null;
}

/** A course of a package of several. */
export interface CourseInPackage {
  readonly code: string;
  readonly title: string;
  /** Whether it is the viewer's, would be made, or is taught by others and stays out. */
  readonly standing: 'yours' | 'new' | 'of others';
}

/** What became of a course of a package of several. */
export interface CourseOutcome {
  readonly code: string;
  readonly title: string;
  readonly made: boolean;
  readonly files: readonly FileCounts[];
  /** Why nothing of it went in; null if it did. */
  readonly left: string | null;
}

export interface ImportPreview {
  /** To import or to download by; null if no file could be read. */
  readonly id: string | null;
  readonly files: readonly FilePreview[];
  readonly foreign: readonly ForeignPreview[];
  /** All courses of the package, if there are several in it. */
  readonly courses: readonly CourseInPackage[];
  /** Works of the course, for tables with a column a work. */
  readonly works: readonly { readonly id: string; readonly title: string }[];
  readonly zone: string;
  readonly faults: readonly FileFault[];
}

export interface PastImport {
  readonly id: number;
  readonly at: Instant;
  readonly by: string | null;
  /** Somebody else who teaches the course made it. */
  readonly ofColleague: boolean;
  readonly files: readonly FileCounts[];
  /** When it was taken back; null if it stands. */
  readonly undoneAt: Instant | null;
}
