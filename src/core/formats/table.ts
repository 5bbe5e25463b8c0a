import {
  cellsOf,
  csvRowsInSteps,
  faultOf,
  plainCell,
  repeatedColumn,
  withoutMark,
  type CsvRow,
  type CsvTable,
} from './csv';
import { shorten } from '../calendar/instant';
import { no, ok, type Result } from '../result';
import { finish, type Steps } from '../steps';

/** A record with its place in a file. */
export interface Placed<T> {
  readonly line: number;
  readonly value: T;
  readonly cells: readonly string[];
  /** What the source calls our columns, where it is of another make. */
  readonly called?: Readonly<Record<string, string>>;
  /** Columns of ours that its own source did not have, where a file is put together from several. */
  readonly absent?: readonly string[];
}

/** A row that could not be taken, with everything needed to mend it. */
export interface RejectedRow {
  readonly line: number;
  readonly field: string;
  readonly reason: string;
  /** The cells as they stood in the file. */
  readonly cells: readonly string[];
}

/** The text of a file: as its bytes, where every character is one, or else as it is. */
export interface SourceText {
  readonly delimiter: string;
  readonly bytes: Uint8Array | null;
  readonly text: string;
}

export interface ReadTable<T> {
  readonly header: readonly string[];
  readonly rows: readonly Placed<T>[];
  readonly rejected: readonly RejectedRow[];
  /** Columns of ours that the file does not have. */
  readonly absent: readonly string[];
  /** The text that its rows have their places in; absent where they hold their cells themselves. */
  readonly source?: SourceText;
  /** Put together from several files: a row has no cells under this header, and one that was rejected has its own. */
  readonly assembled?: boolean;
}

/** A cell as a number; null if it is none. */
export function numberOf(text: string, decimalComma: boolean): number | null {
  const plain = decimalComma ? text.replace(',', '.') : text;
  return /^[+-]?\d{1,15}(\.\d{1,17})?(e[+-]?\d{1,3})?$/i.test(plain) ? Number(plain) : null;
}

/** Reads one field after the other of a row; the first that fails rejects the row. */
export class RowReader {
  failedField: string | null = null;
  failedReason = '';
  private cells: readonly string[] = [];
  private readonly texts = new Map<string, string>();

  constructor(
    private readonly columns: ReadonlyMap<string, number>,
    /** Whether a comma may be a decimal sign: only where it does not separate fields. */
    readonly decimalComma: boolean,
  ) {}

  next(row: CsvRow): void {
    this.cells = row.cells;
    this.failedField = null;
  }

  /** The trimmed cell of a column, as it was meant; empty if the file has no such column. */
  text(column: string): string {
    const index = this.columns.get(column);
    return index == null ? '' : plainCell((this.cells[index] ?? '').trim());
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

  /** Like `required`, for a column in which the same few texts stand again and again: each is kept once. */
  shared(column: string): string {
    return this.once(this.required(column));
  }

  /** Like `optional`, the same way. */
  optionalShared(column: string): string | null {
    const text = this.optional(column);
    return text == null ? null : this.once(text);
  }

  private once(text: string): string {
    const known = this.texts.get(text);
    if (known !== undefined) return known;
    this.texts.set(text, text);
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
    const value = numberOf(text, this.decimalComma);
    if (value == null) this.fail(column, `“${shorten(text)}” is not a number`);
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
  /** Rows that a file may have, where everything else of a course goes through them; any number if absent. */
  readonly most?: number;
  readonly required: readonly string[];
  readonly optional: readonly string[];
  /** Builds the record; whatever it returns is dropped if a field failed. */
  readonly read: (row: RowReader) => T | null;
}

/** The text of a file, for as long as somebody may ask for its rows. */
interface KeptText {
  readonly delimiter: string;
  readonly slice: (from: number, until: number) => string;
}

// Apart from each other, so that the one does not keep what only the other needs.
const sliceOfText =
  (text: string): KeptText['slice'] =>
  (from, until) =>
    text.slice(from, until);
const sliceOfBytes = (bytes: Uint8Array): KeptText['slice'] => {
  const decoder = new TextDecoder();
  return (from, until) => decoder.decode(bytes.subarray(from, until));
};

/** A record of a text that is kept anyway: its cells are cut again when somebody asks for them. */
class RowOfText<T> implements Placed<T> {
  constructor(
    readonly line: number,
    readonly value: T,
    private readonly text: KeptText,
    readonly from: number,
    readonly until: number,
  ) {}

  get cells(): readonly string[] {
    return cellsOf(this.text.slice(this.from, this.until), this.text.delimiter);
  }
}

/** A row on its way between threads: with its place in the bytes of its file instead of its cells, where it has one. */
export type CarriedRow<T> =
  | readonly [line: number, value: T, from: number, until: number]
  | Pick<Placed<T>, 'line' | 'value' | 'cells' | 'called' | 'absent'>;

/** The file that the places of carried rows are in, in UTF-8. */
export interface CarriedText {
  readonly delimiter: string;
  readonly bytes: Uint8Array;
}

/** The text of a table as it is carried to another thread; null where its rows hold their cells themselves. */
export function carryText({ source }: Pick<ReadTable<unknown>, 'source'>): CarriedText | null {
  if (!source) return null;
  return { delimiter: source.delimiter, bytes: source.bytes ?? new TextEncoder().encode(source.text) };
}

/** The rows of a table, in the order of its file, as they are carried to another thread beside its text. */
export function* carryRows<T>({
  rows,
  source,
}: Pick<ReadTable<T>, 'rows' | 'source'>): Generator<CarriedRow<T>> {
  let [at, byte] = [0, 0];
  const encoder = new TextEncoder();
  const placeOf = (place: number): number => {
    if (!source || source.bytes) return place;
    byte += encoder.encode(source.text.slice(at, place)).length;
    at = place;
    return byte;
  };
  for (const row of rows) {
    if (!(row instanceof RowOfText)) {
      const { line, value, cells, called, absent } = row;
      yield { line, value, cells, called, absent };
      continue;
    }
    const from = placeOf(row.from);
    yield [row.line, row.value as T, from, placeOf(row.until)];
  }
}

/** Makes carried rows to rows again. */
export function placeRows<T>(rows: readonly CarriedRow<T>[], { delimiter, bytes }: CarriedText): Placed<T>[] {
  const about: KeptText = { delimiter, slice: sliceOfBytes(bytes) };
  return rows.map((row) => ('cells' in row ? row : new RowOfText(row[0], row[1], about, row[2], row[3])));
}

/** The same row with another record. */
export const withValue = <T>(row: Placed<T>, value: T): Placed<T> => ({
  line: row.line,
  value,
  get cells() {
    return row.cells;
  },
  called: row.called,
  absent: row.absent,
});

/** Rows of one file that are reported one by one: beyond it, it is the file that is wrong. */
const MOST_REJECTED = 100_000;

/** What is said of a file with too many rows that cannot be taken; null if they are few enough. */
export function tooManyRejected(rejected: readonly RejectedRow[]): string | null {
  if (rejected.length <= MOST_REJECTED) return null;
  const { line, field, reason } = rejected[0]!;
  return `more than 100,000 rows cannot be read; the first is line ${line}: ${field === '' ? '' : `${field} `}${reason}`;
}

/** Takes the rows of a file one by one, once its header is known. */
class Reading<T> {
  private readonly good: Placed<T>[] = [];
  private readonly rejected: RejectedRow[] = [];
  private readonly reader: RowReader;

  constructor(
    private readonly header: readonly string[],
    delimiter: string,
    private readonly spec: TableSpec<T>,
    private readonly known: readonly string[],
  ) {
    const columns = new Map(known.filter((n) => header.includes(n)).map((n) => [n, header.indexOf(n)]));
    this.reader = new RowReader(columns, delimiter !== ',');
  }

  /** Takes one row; a reason if too many could not be taken by now. */
  take(row: CsvRow, place: (value: T) => Placed<T>): string | null {
    const { line, cells } = row;
    const reject = (field: string, reason: string) => {
      this.rejected.push({ line, field, reason, cells });
      return tooManyRejected(this.rejected);
    };
    const fault = faultOf(row, this.header);
    if (fault) return reject(fault.field, fault.reason);
    this.reader.next(row);
    const value = this.spec.read(this.reader);
    const { failedField, failedReason } = this.reader;
    if (failedField != null || value == null) return reject(failedField ?? '', failedReason);
    this.good.push(place(value));
    const { most = Infinity } = this.spec;
    return this.good.length > most
      ? `has more than ${most.toLocaleString('en')} rows; no course has as many`
      : null;
  }

  done(): ReadTable<T> {
    const absent = this.known.filter((name) => !this.header.includes(name));
    return { header: this.header, rows: this.good, rejected: this.rejected, absent };
  }
}

/** Begins to read a file of a header; a reason if a column is missing or there twice. */
function begin<T>(header: readonly string[], delimiter: string, spec: TableSpec<T>): Result<Reading<T>> {
  const known = [...spec.required, ...spec.optional];
  const twice = repeatedColumn(header, known);
  if (twice) return no(twice);
  const missing = spec.required.filter((name) => !header.includes(name));
  if (missing.length > 0) {
    return no(
      `line 1: the column ${missing.map((m) => `“${m}”`).join(', ')} is missing; found: ${shorten(header.join(', '), 200)}`,
    );
  }
  return ok(new Reading(header, delimiter, spec, known));
}

/**
 * Reads a CSV file into typed records, keeping what could not be read with its line, field and reason. Missing or
 * repeated columns fail the whole file, since every row would be wrong; columns we do not know are ignored. Good rows
 * keep their place in the text rather than their cells: a million rows are many cells.
 *
 * @param bytes the file itself, if it is at hand: where every character is one byte, it is kept instead of the text
 */
export const readTable = <T>(text: string, spec: TableSpec<T>, bytes?: Uint8Array): Result<ReadTable<T>> =>
  finish(readTableInSteps(text, spec, bytes));

/** The same, with a pause now and then. */
export function* readTableInSteps<T>(
  text: string,
  spec: TableSpec<T>,
  bytes?: Uint8Array,
): Steps<Result<ReadTable<T>>> {
  const source = withoutMark(text);
  const slice = bytes?.length === source.length ? sliceOfBytes(bytes) : sliceOfText(source);
  let reading: Reading<T> | null = null;
  let about: KeptText = { slice, delimiter: ',' };
  const read = yield* csvRowsInSteps(source, {
    header: (header, delimiter) => {
      const begun = begin(header, delimiter, spec);
      if (!begun.ok) return begun.reason;
      reading = begun.value;
      about = { slice, delimiter };
      return null;
    },
    row: (row, from, until) =>
      reading!.take(row, (value) => new RowOfText(row.line, value, about, from, until)),
  });
  if (!read.ok) return read;
  const single = bytes?.length === source.length;
  const { delimiter } = about;
  return ok({
    ...reading!.done(),
    source: { delimiter, bytes: single ? bytes : null, text: single ? '' : source },
  });
}

/** The same of a file that has been cut into rows. */
export function readRows<T>(table: CsvTable, spec: TableSpec<T>): Result<ReadTable<T>> {
  const begun = begin(table.header, table.delimiter, spec);
  if (!begun.ok) return begun;
  for (const row of table.rows) {
    const refused = begun.value.take(row, (value) => ({ line: row.line, value, cells: row.cells }));
    if (refused != null) return no(refused);
  }
  return ok(begun.value.done());
}
