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
  /** In lower case. */
  readonly header: readonly string[];
  readonly rows: readonly CsvRow[];
  /** The header as it is written. */
  readonly names?: readonly string[];
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
  for (let i = 0; i < text.length; i++) {
    const char = text[i]!;
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted && char in counts) counts[char]!++;
  }
  return [',', ';', '\t'].reduce((best, d) => (counts[d]! > counts[best]! ? d : best));
}

/** What a table may have: nobody's course has more, and what goes beyond is hostile or damaged. */
export const TABLE_LIMITS = { columns: 1000, cell: 1024 * 1024, rows: 2_000_000 } as const;

/** What somebody does with a file while it is read. */
export interface CsvVisitor {
  /** The first line, trimmed and in lower case, and as it is written; a reason ends the reading. */
  readonly header: (header: readonly string[], delimiter: string, names: readonly string[]) => string | null;
  /** Each row after it, with where it stands in the text; a reason ends the reading. */
  readonly row: (row: CsvRow, from: number, until: number) => string | null | void;
}

/** The text of a file without its byte order mark. */
export const withoutMark = (text: string): string => (text.startsWith('\ufeff') ? text.slice(1) : text);

/**
 * Reads CSV text row by row, per RFC 4180 and the habits of spreadsheets: semicolons or tabs, CRLF or LF, quotes and
 * line breaks inside fields. Blank lines are skipped. No row is kept. A row beyond `TABLE_LIMITS` is
 * broken; a header or a table beyond them is refused.
 *
 * @param source text without a byte order mark
 */
export const eachCsvRow = (source: string, visitor: CsvVisitor): Result<null> =>
  finish(csvRowsInSteps(source, visitor));

/** Characters between two pauses. */
const STEP = 1 << 16;

/** The same, with a pause now and then. */
export function* csvRowsInSteps(source: string, visitor: CsvVisitor): Steps<Result<null>> {
  if (source.trim() === '') return no('the file is empty');
  const delimiter = delimiterOf(source);
  const rows = new RowCutter(source, delimiter);
  let header: readonly string[] | null = null;
  let pause = STEP;
  let count = 0;
  for (;;) {
    const row = rows.next();
    const { from, line } = rows;
    if (row === null) break;
    if (typeof row === 'string') return no(`line ${line}: ${row}`);
    if (rows.at >= pause) {
      yield;
      pause = rows.at + STEP;
    }
    if (++count > TABLE_LIMITS.rows) return no('has more than 2,000,000 rows; cut it into several files');
    const { cells } = row;
    if (cells.length === 1 && cells[0]!.trim() === '' && row.fault == null) continue;
    let refused: string | null | void;
    if (header) {
      refused = visitor.row(row, from, rows.at);
    } else {
      if (row.fault === LONG || row.fault === WIDE) return no(`line ${row.line}: ${row.fault}`);
      const names = cells.map((cell) => cell.trim());
      header = names.map((name) => name.toLowerCase());
      refused = visitor.header(header, delimiter, names);
    }
    if (refused != null) return no(refused);
  }
  return header ? ok(null) : no('the file is empty');
}

const [LF, CR, QUOTE, SPACE] = [10, 13, 34, 32];

/**
 * Cuts a text into rows in one pass: every character is looked at a fixed number of times, whatever it is. (The parser
 * of papaparse, which writes our files, looks ahead to the end of its input at each quote: 10 MB of quotes took it half a
 * minute.)
 */
class RowCutter {
  at = 0;
  line = 1;
  /** Where the row began that was cut last. */
  from = 0;
  /** Where the next of these stands, once it was looked for: each stretch of text is searched once. */
  private feed = -1;
  private carriage = -1;
  private quote = -1;

  constructor(
    private readonly text: string,
    private readonly delimiter: string,
  ) {}

  /** The next row, why there is none, or null at the end. */
  next(): CsvRow | string | null {
    const { text } = this;
    // Blank lines are passed over at once: a file may be nothing else.
    for (; this.at < text.length; this.at++) {
      const code = text.charCodeAt(this.at);
      if (code === LF || (code === CR && text.charCodeAt(this.at + 1) !== LF)) this.line++;
      else if (code !== CR) break;
    }
    if (this.at >= text.length) return null;
    this.from = this.at;
    this.feed = this.seek('\n', this.feed);
    this.carriage = this.seek('\r', this.carriage);
    this.quote = this.seek('"', this.quote);
    const end = Math.min(this.feed, this.carriage);
    if (this.quote < end) return this.quoted();
    const row = text.slice(this.at, end);
    const cells = row.split(this.delimiter, TABLE_LIMITS.columns + 1);
    this.at = end + (text.charCodeAt(end) === CR && text.charCodeAt(end + 1) === LF ? 2 : 1);
    const long = row.length > TABLE_LIMITS.cell && cells.some((cell) => cell.length > TABLE_LIMITS.cell);
    return {
      line: this.line++,
      cells,
      fault: long ? LONG : cells.length > TABLE_LIMITS.columns ? WIDE : null,
    };
  }

  private seek(char: string, known: number): number {
    if (known >= this.at) return known;
    const found = this.text.indexOf(char, this.at);
    return found < 0 ? this.text.length : found;
  }

  /** A row in which a quote stands, character by character. */
  private quoted(): CsvRow | string {
    const { text } = this;
    const delimiter = this.delimiter.charCodeAt(0);
    const { line } = this;
    const cells: string[] = [];
    let fault: string | null = null;
    let at = this.at;
    for (;;) {
      let cell: string;
      if (text.charCodeAt(at) === QUOTE) {
        const read = this.quotedCell(at + 1, delimiter);
        cell = read.cell;
        at = read.until;
        fault ??= read.fault;
      } else {
        const from = at;
        for (; at < text.length; at++) {
          const code = text.charCodeAt(at);
          if (code === delimiter || code === LF || code === CR) break;
        }
        cell = text.slice(from, at);
      }
      if (fault === OPEN && at < text.length) return `${LONG}; ${OPEN}`;
      if (cell.length > TABLE_LIMITS.cell) fault ??= LONG;
      // The rest of a row that is too wide is passed over, not kept.
      if (cells.length <= TABLE_LIMITS.columns) cells.push(cell);
      if (cells.length > TABLE_LIMITS.columns) fault ??= WIDE;
      if (text.charCodeAt(at) !== delimiter) break;
      at++;
    }
    if (at < text.length) {
      at += text.charCodeAt(at) === CR && text.charCodeAt(at + 1) === LF ? 2 : 1;
      this.line++;
    }
    this.at = at;
    return { line, cells, fault };
  }

  /** The cell behind an opening quote, and where it ends: at a delimiter, a line break or the end of the text. */
  private quotedCell(from: number, delimiter: number): { cell: string; until: number; fault: string | null } {
    const { text } = this;
    let cell = '';
    let kept = from;
    let fault: string | null = null;
    for (let at = from; at < text.length; at++) {
      const code = text.charCodeAt(at);
      // Two quotes are one: what is twice as long is too long whatever it holds, and need not be read to its end.
      if (at - from > 2 * TABLE_LIMITS.cell + 2)
        return { cell: cell + text.slice(kept, at), until: at, fault: OPEN };
      if (code === LF || (code === CR && text.charCodeAt(at + 1) !== LF)) this.line++;
      if (code !== QUOTE) continue;
      if (text.charCodeAt(at + 1) === QUOTE) {
        cell += text.slice(kept, ++at);
        kept = at + 1;
        continue;
      }
      let until = at + 1;
      while (text.charCodeAt(until) === SPACE) until++;
      const next = text.charCodeAt(until);
      if (until >= text.length || next === delimiter || next === LF || next === CR)
        return { cell: cell + text.slice(kept, at), until, fault };
      // Not where a cell can end: it is taken as it stands.
      fault = 'a stray quote';
      at = until - 1;
    }
    return { cell: cell + text.slice(kept), until: text.length, fault: OPEN };
  }
}

const OPEN = 'a quote is opened and never closed';
const LONG = 'a cell is longer than 1 MB';
const WIDE = 'has more than 1,000 columns';

/** The cells of one row as it stands in a text. */
export function cellsOf(row: string, delimiter: string): readonly string[] {
  const read = new RowCutter(row, delimiter).next();
  return read === null || typeof read === 'string' ? [] : read.cells;
}

/** Reads a whole file into rows; see `eachCsvRow`. A byte order mark is left out. */
export function parseCsv(text: string): Result<CsvTable> {
  const rows: CsvRow[] = [];
  let head: Pick<CsvTable, 'delimiter' | 'header' | 'names'> | null = null;
  const read = eachCsvRow(withoutMark(text), {
    header: (header, delimiter, names) => {
      head = { header, delimiter, names };
      return null;
    },
    row: (row) => void rows.push(row),
  });
  return read.ok ? ok({ ...(head as unknown as Omit<CsvTable, 'rows'>), rows }) : read;
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
export function faultOf(
  { cells, fault }: CsvRow,
  header: readonly string[],
): { readonly field: string; readonly reason: string } | null {
  if (fault === LONG) {
    const field = header[cells.findIndex((cell) => cell.length > TABLE_LIMITS.cell)] ?? '';
    return { field, reason: fault.replace('a cell ', '') };
  }
  if (fault != null) return { field: '', reason: fault };
  if (cells.length === header.length) return null;
  return { field: '', reason: `has ${cells.length} fields where the header has ${header.length}` };
}
