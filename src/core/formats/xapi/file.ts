import { no, ok, type Result } from '../../result';
import { parseJson } from '../json';
import { finish, type Steps } from '../../steps';
import { TABLE_LIMITS } from '../csv';
import { tooManyRejected, type RejectedRow } from '../table';
import { readStatement, type Statement } from './statement';

/** The statements of a file; the place of each (its line, or its number in an array) stands beside it. */
export interface ReadStatements {
  readonly rows: readonly { readonly line: number; readonly value: Statement }[];
  readonly rejected: readonly RejectedRow[];
}

/** A rejected statement in whole, so that it can be mended and imported later; a line without end is cut. */
export const asItStood = (text: string): string => text.slice(0, 100_000);

/** Statements between two pauses. */
const STEP = 20;

/** A file that begins like JSON is taken for statements: no CSV begins so. */
export const looksLikeStatements = (text: string): boolean => /^\ufeff?\s*[[{]/.test(text.slice(0, 1000));

/**
 * Reads a file of statements: an array, one statement a line, or a page as the statements resource gives it
 * (`{"statements": […]}`). Statements that are none are rejected with their place and the property at fault.
 */
export const readStatementFile = (text: string): Result<ReadStatements> =>
  finish(readStatementsInSteps(text));

/** The same in steps: to check a hundred thousand statements takes a while. */
export function* readStatementsInSteps(text: string): Steps<Result<ReadStatements>> {
  const source = text.startsWith('\ufeff') ? text.slice(1) : text;
  const whole = parseJson(source);
  if (whole.ok) {
    const { value } = whole;
    if (Array.isArray(value)) return yield* check(value.map((v: unknown, i) => [i + 1, v]));
    if (
      typeof value === 'object' &&
      value !== null &&
      'statements' in value &&
      Array.isArray(value.statements)
    )
      return yield* check(value.statements.map((v: unknown, i) => [i + 1, v]));
    return yield* check([[1, value]]);
  }
  // Too much of it as a whole: by lines it is no less.
  if (whole.reason.startsWith('holds')) return no(whole.reason);
  const lines = source.split(/\r?\n/, TABLE_LIMITS.rows + 1);
  if (lines.length > TABLE_LIMITS.rows) return no('has more than 2,000,000 lines; cut it into several files');
  const first = lines.findIndex((l) => l.trim() !== '');
  if (first < 0 || !parseJson(lines[first]!).ok) return no(whole.reason);
  const items: [number, unknown][] = [];
  const broken: RejectedRow[] = [];
  for (const [i, line] of lines.entries()) {
    if (i % STEP === 0) yield;
    if (line.trim() === '') continue;
    const read = parseJson(line);
    if (read.ok) items.push([i + 1, read.value]);
    else
      broken.push({
        line: i + 1,
        field: 'statement',
        reason: read.reason,
        cells: [asItStood(line)],
      });
    const many = tooManyRejected(broken);
    if (many != null) return no(many);
  }
  const checked = yield* check(items);
  if (!checked.ok) return checked;
  const { rows, rejected } = checked.value;
  return ok({ rows, rejected: [...rejected, ...broken].sort((a, b) => a.line - b.line) });
}

function* check(items: readonly (readonly [number, unknown])[]): Steps<Result<ReadStatements>> {
  const rows: { line: number; value: Statement }[] = [];
  const rejected: RejectedRow[] = [];
  for (const [i, [line, item]] of items.entries()) {
    if (i % STEP === 0) yield;
    const read = readStatement(item);
    if (read.ok) rows.push({ line, value: read.value });
    else {
      const field = read.reason.split(/[ :]/)[0] ?? 'statement';
      // The field is said beside it already.
      const reason = read.reason.replace(`${field}: `, '');
      rejected.push({ line, field, reason, cells: [asItStood(JSON.stringify(item))] });
      const many = tooManyRejected(rejected);
      if (many != null) return no(many);
    }
  }
  return ok({ rows, rejected });
}
