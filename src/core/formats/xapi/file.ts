import { no, ok, type Result } from '../../result';
import type { RejectedRow } from '../table';
import { readStatement, type Statement } from './statement';

/** The statements of a file; the place of each (its line, or its number in an array) stands beside it. */
export interface ReadStatements {
  readonly rows: readonly { readonly line: number; readonly value: Statement }[];
  readonly rejected: readonly RejectedRow[];
}

/** A file that begins like JSON is taken for statements: no CSV begins so. */
export const looksLikeStatements = (text: string): boolean => /^\ufeff?\s*[[{]/.test(text.slice(0, 1000));

/**
 * Reads a file of statements: an array, one statement a line, or a page as the statements resource gives it
 * (`{"statements": […]}`). Statements that are none are rejected with their place and the property at fault.
 */
export function readStatementFile(text: string): Result<ReadStatements> {
  const source = text.startsWith('\ufeff') ? text.slice(1) : text;
  const whole = parse(source);
  if (whole.ok) {
    const { value } = whole;
    if (Array.isArray(value)) return ok(sort(value.map((v: unknown, i) => [i + 1, v])));
    if (
      typeof value === 'object' &&
      value !== null &&
      'statements' in value &&
      Array.isArray(value.statements)
    )
      return ok(sort(value.statements.map((v: unknown, i) => [i + 1, v])));
    return ok(sort([[1, value]]));
  }
  const lines = source.split(/\r?\n/);
  const first = lines.findIndex((l) => l.trim() !== '');
  if (first < 0 || !parse(lines[first]!).ok) return no(`is not JSON: ${whole.reason}`);
  const items: [number, unknown][] = [];
  const broken: RejectedRow[] = [];
  lines.forEach((line, i) => {
    if (line.trim() === '') return;
    const read = parse(line);
    if (read.ok) items.push([i + 1, read.value]);
    else broken.push({ line: i + 1, field: 'statement', reason: 'is not JSON', cells: [line.slice(0, 200)] });
  });
  const sorted = sort(items);
  return ok({ rows: sorted.rows, rejected: [...sorted.rejected, ...broken].sort((a, b) => a.line - b.line) });
}

function parse(text: string): Result<unknown> {
  try {
    return ok(JSON.parse(text));
  } catch (error) {
    return no(error instanceof Error ? error.message.slice(0, 120) : 'cannot be read');
  }
}

function sort(items: readonly (readonly [number, unknown])[]): ReadStatements {
  const rows: { line: number; value: Statement }[] = [];
  const rejected: RejectedRow[] = [];
  for (const [line, item] of items) {
    const read = readStatement(item);
    if (read.ok) rows.push({ line, value: read.value });
    else
      rejected.push({
        line,
        field: read.reason.split(/[ :]/)[0] ?? 'statement',
        reason: read.reason,
        cells: [JSON.stringify(item).slice(0, 200)],
      });
  }
  return { rows, rejected };
}
