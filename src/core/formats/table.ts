import { parseCsv, type CsvRow, type CsvTable } from './csv';
import { shorten } from './instant';
import type { Result } from '../result';

/** A record with its place in a file. */
export interface Placed<T> {
  readonly line: number;
  readonly value: T;
  readonly cells: readonly string[];
  /** What the source calls one of our columns, where it is of another make. */
  readonly called?: (column: string) => string;
}

/** A row that could not be taken, with everything needed to mend it. */
export interface RejectedRow {
  readonly line: number;
  readonly field: string;
  readonly reason: string;
  /** The cells as they stood in the file. */
  readonly cells: readonly string[];
}

export interface ReadTable<T> {
  readonly header: readonly string[];
  readonly rows: readonly Placed<T>[];
  readonly rejected: readonly RejectedRow[];
  /** Columns of ours that the file does not have. */
  readonly absent: readonly string[];
}

/** Reads one field after the other of a row; the first that fails rejects the row. */
export class RowReader {
  failedField: string | null = null;
  failedReason = '';
  private cells: readonly string[] = [];

  constructor(
    private readonly columns: ReadonlyMap<string, number>,
    /** Whether a comma may be a decimal sign: only where it does not separate fields. */
    readonly decimalComma: boolean,
  ) {}

  next(row: CsvRow): void {
    this.cells = row.cells;
    this.failedField = null;
  }

  /** The trimmed cell of a column; empty if the file has no such column. */
  text(column: string): string {
    const index = this.columns.get(column);
    return index == null ? '' : (this.cells[index] ?? '').trim();
  }

  fail(column: string, reason: string): void {
    if (this.failedField != null) return;
    this.failedField = column;
    this.failedReason = reason;
  }

  required(column: string, most = 200): string {
    const text = this.text(column);
    if (text === '') this.fail(column, 'is empty');
    else if (text.length > most) this.fail(column, `is longer than ${most} characters`);
    return text;
  }

  optional(column: string, most = 200): string | null {
    const text = this.text(column);
    if (text.length > most) this.fail(column, `is longer than ${most} characters`);
    return text === '' ? null : text;
  }

  read<T>(column: string, parse: (text: string) => Result<T>): T | null {
    const text = this.text(column);
    if (text === '') return null;
    const result = parse(text);
    if (result.ok) return result.value;
    this.fail(column, result.reason);
    return null;
  }

  /** Like `read`, and an empty cell fails; `instead` stands in for a value that is dropped anyway. */
  requiredAs<T>(column: string, parse: (text: string) => Result<T>, instead: T): T {
    const value = this.read(column, parse);
    if (value == null) this.fail(column, 'is empty');
    return value ?? instead;
  }

  /** Like `number`, and an empty cell fails. */
  requiredNumber(column: string, least: number, most: number): number {
    const value = this.number(column, least, most);
    if (value == null) this.fail(column, 'is empty');
    return value ?? 0;
  }

  number(column: string, least: number, most: number): number | null {
    const text = this.text(column);
    if (text === '') return null;
    const plain = this.decimalComma ? text.replace(',', '.') : text;
    const value = /^[+-]?\d{1,15}(\.\d{1,17})?(e[+-]?\d{1,3})?$/i.test(plain) ? Number(plain) : NaN;
    if (Number.isNaN(value)) this.fail(column, `“${shorten(text)}” is not a number`);
    else if (value < least || value > most)
      this.fail(column, `${shorten(text)} is not between ${least} and ${most}`);
    else return value;
    return null;
  }

  oneOf<W extends string>(column: string, words: readonly W[]): W | null {
    const text = this.text(column).toLowerCase();
    const word = words.find((w) => w === text);
    if (word == null) this.fail(column, `“${shorten(text)}” is none of: ${words.join(', ')}`);
    return word ?? null;
  }

  yesNo(column: string): boolean {
    const text = this.text(column).toLowerCase();
    if (['', '0', 'no', 'false'].includes(text)) return false;
    if (['1', 'yes', 'true'].includes(text)) return true;
    this.fail(column, `“${shorten(text)}” is neither yes nor no`);
    return false;
  }
}

export interface TableSpec<T> {
  readonly required: readonly string[];
  readonly optional: readonly string[];
  /** Builds the record; whatever it returns is dropped if a field failed. */
  readonly read: (row: RowReader) => T | null;
}

/**
 * Reads a CSV file into typed records, keeping what could not be read with its line, field and reason. Missing or
 * repeated columns fail the whole file, since every row would be wrong; columns we do not know are ignored.
 */
export function readTable<T>(text: string, spec: TableSpec<T>): Result<ReadTable<T>> {
  const parsed = parseCsv(text);
  return parsed.ok ? readRows(parsed.value, spec) : parsed;
}

/** The same of a file that has been cut into rows. */
export function readRows<T>(table: CsvTable, spec: TableSpec<T>): Result<ReadTable<T>> {
  const { header, rows, delimiter } = table;
  const known = [...spec.required, ...spec.optional];
  const twice = known.find((name) => header.indexOf(name) !== header.lastIndexOf(name));
  if (twice) return { ok: false, reason: `line 1: the column “${twice}” occurs twice` };
  const missing = spec.required.filter((name) => !header.includes(name));
  if (missing.length > 0) {
    return {
      ok: false,
      reason: `line 1: the column ${missing.map((m) => `“${m}”`).join(', ')} is missing; found: ${shorten(header.join(', '), 200)}`,
    };
  }
  const columns = new Map(known.filter((n) => header.includes(n)).map((n) => [n, header.indexOf(n)]));
  const reader = new RowReader(columns, delimiter !== ',');
  const good: { line: number; value: T; cells: readonly string[] }[] = [];
  const rejected: RejectedRow[] = [];
  for (const row of rows) {
    const { line, cells } = row;
    if (row.fault) {
      rejected.push({ line, field: '', reason: row.fault, cells });
      continue;
    }
    if (cells.length !== header.length) {
      rejected.push({
        line,
        field: '',
        reason: `has ${cells.length} fields where the header has ${header.length}`,
        cells,
      });
      continue;
    }
    reader.next(row);
    const value = spec.read(reader);
    if (reader.failedField != null || value == null) {
      rejected.push({ line, field: reader.failedField ?? '', reason: reader.failedReason, cells });
    } else {
      good.push({ line, value, cells });
    }
  }
  const absent = known.filter((name) => !columns.has(name));
  return { ok: true, value: { header, rows: good, rejected, absent } };
}
