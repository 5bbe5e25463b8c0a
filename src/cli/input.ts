import { readFileSync } from 'node:fs';
import { decodeText } from '@/core/formats/csv';
import { readTable, type TableSpec } from '@/core/formats/table';

/** Something is wrong with what was given: said on standard error, exit code 2. */
export class InputError extends Error {
  constructor(readonly lines: readonly string[]) {
    super(lines.join('\n'));
    this.name = 'InputError';
  }
}

/** Most errors that are listed before the rest is only counted. */
const MOST_ERRORS = 50;

/** What is wrong with a file, the first of it in full. */
export function inputError(file: string, faults: readonly string[]): InputError {
  const lines = faults.slice(0, MOST_ERRORS).map((fault) => `${file}: ${fault}`);
  if (faults.length > MOST_ERRORS) lines.push(`${file}: and ${faults.length - MOST_ERRORS} more`);
  return new InputError(lines);
}

/** The text of a file, or of standard input for `-`. */
export function readText(file: string): string {
  let bytes: Uint8Array;
  try {
    bytes = readFileSync(file === '-' ? 0 : file);
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : 'unreadable';
    throw new InputError([`${file}: cannot be read (${code})`]);
  }
  const text = decodeText(bytes);
  if (!text.ok) throw new InputError([`${file}: ${text.reason}`]);
  return text.value;
}

/** All records of a CSV file; a row that cannot be read refuses the file, naming line, field and reason. */
export function readRows<T>(file: string, spec: TableSpec<T>): T[] {
  const table = readTable(readText(file), spec);
  if (!table.ok) throw new InputError([`${file}: ${table.reason}`]);
  const { rows, rejected } = table.value;
  if (rejected.length > 0) {
    throw inputError(
      file,
      rejected.map((r) => `line ${r.line}${r.field ? `, ${r.field}` : ''}: ${r.reason}`),
    );
  }
  return rows.map((r) => r.value);
}

/** Orders names as their code units stand, the same on every machine. */
export const byCode = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
