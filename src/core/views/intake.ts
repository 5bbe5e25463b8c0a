import type { FileKind } from '../formats/courseFiles';
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
  readonly counts: FileCounts;
  readonly added: readonly PreviewRow[];
  readonly changed: readonly PreviewRow[];
  readonly rejected: readonly PreviewRow[];
  readonly waiting: readonly PreviewRow[];
}

export interface ImportPreview {
  /** To import or to download by; null if no file could be read. */
  readonly id: string | null;
  readonly files: readonly FilePreview[];
  readonly faults: readonly FileFault[];
}

export interface PastImport {
  readonly id: number;
  readonly at: Instant;
  readonly by: string | null;
  readonly files: readonly FileCounts[];
  /** When it was taken back; null if it stands. */
  readonly undoneAt: Instant | null;
}
