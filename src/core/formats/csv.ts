import Papa from 'papaparse';
import { no, ok, type Result } from '../result';
import { finish, type Steps } from '../steps';

/** Why a header cannot be read where a column that is asked for stands in it twice; null if none does. */
export function repeatedColumn(header: readonly string[], asked: readonly string[]): string | null {
  const twice = asked.find((name) => header.indexOf(name) !== header.lastIndexOf(name));
  return twice === undefined ? null : `line 1: the column “${twice}” occurs twice`;
}

/** One record of a file: its cells and the line on which it begins (1 is the first line of the file). */
export interface CsvRow {
  readonly line: number;
  readonly cells: readonly string[];
  /** Set where the quoting of the record is broken. */
  readonly fault: string | null;
}

export interface CsvTable {
  readonly delimiter: string;
  readonly header: readonly string[];
  readonly rows: readonly CsvRow[];
}

/**
 * Bytes of a text file to text: UTF-8 with or without byte order mark, or UTF-16 with one, as spreadsheets save. Any
 * other encoding is refused with the line where it shows, since guessing would damage names silently.
 */
export function decodeText(bytes: Uint8Array): Result<string> {
  const mark = bytes[0]! * 256 + bytes[1]!;
  if (mark === 0xfffe || mark === 0xfeff) {
    try {
      const encoding = mark === 0xfffe ? 'utf-16le' : 'utf-16be';
      return whole(new TextDecoder(encoding, { fatal: true }).decode(bytes.subarray(2)));
    } catch {
      return no('the file is cut off or damaged: it begins as UTF-16 and does not go on as such');
    }
  }
  try {
    return whole(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return no(`line ${badLine(bytes)}: the file is not UTF-8; save it again as “CSV UTF-8”`);
  }
}

/** A text, unless it holds a zero character: nothing that people write does, and no database keeps it. */
function whole(text: string): Result<string> {
  const zero = text.indexOf('\0');
  if (zero < 0) return ok(text);
  return no(`line ${1 + lineBreaks(text.slice(0, zero))}: holds a zero byte, so it is no text file`);
}

/** First line that does not decode. UTF-8 never splits a character over a line feed byte, so lines stand alone. */
function badLine(bytes: Uint8Array): number {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let line = 1;
  let from = 0;
  for (;;) {
    const feed = bytes.indexOf(10, from);
    try {
      decoder.decode(bytes.subarray(from, feed < 0 ? bytes.length : feed));
    } catch {
      return line;
    }
    if (feed < 0) return line;
    from = feed + 1;
    line++;
  }
}

/** The delimiter of a header line: whichever of comma, semicolon and tab stands in it most often outside quotes. */
function delimiterOf(text: string): string {
  const counts: Record<string, number> = { ',': 0, ';': 0, '\t': 0 };
  let quoted = false;
  for (const char of text) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted && char in counts) counts[char]!++;
  }
  return [',', ';', '\t'].reduce((best, d) => (counts[d]! > counts[best]! ? d : best));
}

/** Characters that are cut into rows together: few enough that their rows are short-lived. */
const CHUNK = 1 << 16;

/** The parser by itself: its own way to read in chunks calls itself for each, and keeps them all. */
const { Parser } = Papa as unknown as {
  Parser: new (config: object) => {
    parse: (input: string, from: number, withoutLastRow: boolean) => Papa.ParseResult<string[]>;
  };
};

/** The rows of a text, some at a time; a row that is cut off by the end of a chunk begins the next. */
function* chunks(source: string, delimiter: string, chunk: number): Generator<Papa.ParseResult<string[]>> {
  const { linebreak: newline } = Papa.parse<string[]>(source.slice(0, CHUNK), { delimiter }).meta;
  let size = chunk;
  for (let from = 0; from < source.length;) {
    const last = from + size >= source.length;
    const part = new Parser({ delimiter, newline }).parse(source.slice(from, from + size), 0, !last);
    // One row longer than a chunk, or a quote that is never closed.
    if (!last && part.meta.cursor === 0) {
      size *= 2;
      continue;
    }
    yield part;
    if (last) return;
    from += part.meta.cursor;
    size = chunk;
  }
}

/** What somebody does with a file while it is read. */
export interface CsvVisitor {
  /** The first line, trimmed and in lower case; a reason ends the reading. */
  readonly header: (header: readonly string[], delimiter: string) => string | null;
  /** Each row after it, with where it stands in the text; a place under 0 is not known. */
  readonly row: (row: CsvRow, from: number, until: number) => void;
}

/** The text of a file without its byte order mark. */
export const withoutMark = (text: string): string => (text.startsWith('\ufeff') ? text.slice(1) : text);

/**
 * Reads CSV text row by row, per RFC 4180 and the habits of spreadsheets: semicolons or tabs, CRLF or LF, quotes and
 * line breaks inside fields. Blank lines are skipped. No row is kept.
 *
 * @param source text without a byte order mark
 * @param chunk characters cut into rows together
 */
export const eachCsvRow = (source: string, visitor: CsvVisitor, chunk = CHUNK): Result<null> =>
  finish(csvRowsInSteps(source, visitor, chunk));

/** The same, with a pause after each chunk. */
export function* csvRowsInSteps(source: string, visitor: CsvVisitor, chunk = CHUNK): Steps<Result<null>> {
  if (source.trim() === '') return no('the file is empty');
  const delimiter = delimiterOf(source);
  const feed = source.includes('\n') ? '\n' : '\r';
  let header: readonly string[] | null = null;
  let line = 1;
  let place = 0;
  let placed = true;
  const take = (cells: string[], fault: string | null) => {
    const [startsAt, from] = [line, place];
    line += 1;
    let feeds = 1;
    for (const cell of cells) {
      line += lineBreaks(cell);
      if (cell.includes(feed)) feeds += cell.split(feed).length - 1;
    }
    for (let i = 0; i < feeds; i++) {
      const next = source.indexOf(feed, place);
      place = next < 0 ? source.length : next + 1;
    }
    if (cells.length === 1 && cells[0]!.trim() === '') return null;
    if (!header) {
      header = cells.map((cell) => cell.trim().toLowerCase());
      return visitor.header(header, delimiter);
    }
    // Line breaks of two kinds in one file: from there on nobody knows what stands where.
    placed &&= source.startsWith(cells[0]!, from) || source.startsWith('"', from);
    visitor.row({ line: startsAt, cells, fault }, placed ? from : -1, place);
    return null;
  };
  for (const { data, errors } of chunks(source, delimiter, chunk)) {
    const faults = new Map<number, string>();
    for (const error of errors) {
      if (error.type === 'Quotes' && error.row != null) {
        faults.set(
          error.row,
          error.code === 'MissingQuotes' ? 'a quote is opened and never closed' : 'a stray quote',
        );
      }
    }
    for (const [i, cells] of data.entries()) {
      const refused = take(cells, faults.get(i) ?? null);
      if (refused != null) return no(refused);
    }
    yield;
  }
  return header ? ok(null) : no('the file is empty');
}

/** The cells of one row as it stands in a text. */
export function cellsOf(row: string, delimiter: string): string[] {
  return Papa.parse<string[]>(row.replace(/[\r\n]+$/, ''), { delimiter }).data[0] ?? [];
}

/** Reads a whole file into rows; see `eachCsvRow`. A byte order mark is left out. */
export function parseCsv(text: string): Result<CsvTable> {
  const rows: CsvRow[] = [];
  let head: { delimiter: string; header: readonly string[] } | null = null;
  const read = eachCsvRow(withoutMark(text), {
    header: (header, delimiter) => {
      head = { header, delimiter };
      return null;
    },
    row: (row) => rows.push(row),
  });
  return read.ok ? ok({ ...(head as unknown as { delimiter: string; header: string[] }), rows }) : read;
}

function lineBreaks(cell: string): number {
  if (!cell.includes('\n')) return cell.includes('\r') ? cell.split('\r').length - 1 : 0;
  return cell.split('\n').length - 1;
}

/**
 * Writes rows as CSV (RFC 4180, CRLF). A text cell that a spreadsheet would run as a formula gets a leading
 * apostrophe; numbers are left as they are.
 */
export function writeCsv(
  header: readonly string[],
  rows: Iterable<readonly (string | number | null)[]>,
): string {
  const data: (string | number | null)[][] = [];
  for (const row of rows) data.push(row.map((cell) => (typeof cell === 'string' ? neutralise(cell) : cell)));
  return Papa.unparse({ fields: [...header], data }, { newline: '\r\n' }) + '\r\n';
}

/**
 * Takes the danger out of a cell that begins like a formula, by an apostrophe before it; a plain signed number is none.
 * A cell that begins so already gets another, so that every cell comes back by `plainCell`.
 */
export function neutralise(cell: string): string {
  return /^'*[=+\-@\t\r]/.test(cell) && !/^[+-]?\d+([.,]\d+)?$/.test(cell) ? `'${cell}` : cell;
}

/** A cell as it was meant: without what `neutralise`, or a spreadsheet, put before it. */
export function plainCell(cell: string): string {
  return cell.startsWith("'") && /^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell;
}

/** Why a row cannot be read, whatever its cells hold: it is broken, or not as long as the header. Null if it can. */
export const faultOf = (row: CsvRow, header: readonly string[]): string | null =>
  row.fault ??
  (row.cells.length === header.length
    ? null
    : `has ${row.cells.length} fields where the header has ${header.length}`);
