import type { CsvTable } from '@/core/formats/csv';
import type { Mapping } from '@/core/course/mapping';
import { valuesOf } from '@/core/formats/mapping/suggest';
import type { ForeignPreview } from '@/core/views/intake';

/** A file of a foreign make: how it was read, or how it may be meant. */
export interface ForeignFile {
  readonly name: string;
  readonly table: CsvTable;
  readonly mapping: Mapping;
  /** Name of the saved mapping that was picked; null if somebody told it here, or nobody yet. */
  readonly saved: string | null;
  /** Whether it was read that way, or waits for somebody to say how. */
  readonly read: boolean;
  /** Why it cannot be read as one of our own, if it looks like one. */
  readonly reason: string | null;
}

/** Rows of a foreign table that are shown beside its mapping. */
const SAMPLE = 8;

/** How a file of a foreign make is read, or may be meant, with some of its rows. */
export function foreignPreview({ name, table, mapping, saved, read, reason }: ForeignFile): ForeignPreview {
  return {
    name,
    delimiter: table.delimiter,
    columns: table.header.map((column) => ({ name: column, values: valuesOf(table, column) })),
    rows: table.rows.slice(0, SAMPLE).map(({ line, cells }) => ({ line, cells })),
    mapping,
    saved,
    read,
    reason,
  };
}
