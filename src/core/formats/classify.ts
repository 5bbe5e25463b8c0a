import { finish, type Steps } from '../steps';
import { withValue, type Placed, type RejectedRow } from './table';

export type { Placed } from './table';

/** A record that takes the place of another. */
export interface Replaced<T> extends Placed<T> {
  readonly before: T;
}

/** What importing a file would do, row by row. */
export interface Changes<T> {
  readonly added: readonly Placed<T>[];
  readonly changed: readonly Replaced<T>[];
  readonly unchanged: number;
  /** Rows of people nobody knows yet: kept until somebody says who they are. */
  readonly waiting: readonly Placed<T>[];
  readonly rejected: readonly RejectedRow[];
}

/** The records that an import writes: those it adds, then those it changes. None of a kind that was not sent. */
export const written = <T>(changes: Pick<Changes<T>, 'added' | 'changed'> | undefined): readonly T[] =>
  [...(changes?.added ?? []), ...(changes?.changed ?? [])].map((row) => row.value);

/** Why a record cannot be taken, with the field at fault; null if it can. */
export type Objection = { readonly field: string; readonly reason: string } | null;

export interface ClassifyOptions<T> {
  readonly keyOf: (value: T) => string;
  /** Field and words for an error about the key. */
  readonly keyField: string;
  readonly existing: ReadonlyMap<string, T>;
  readonly same: (a: T, b: T) => boolean;
  readonly objection: (value: T) => Objection;
  /** Whether the record is about somebody unknown and must wait; nothing waits if absent. */
  readonly waits?: (value: T) => boolean;
  /** Whether the same record waits already: it then waits no second time. */
  readonly waitsAlready?: (key: string, value: T) => boolean;
  /** What to do with a known key whose content differs: take it as a change, or refuse it. */
  readonly onDifference: 'change' | 'reject';
}

/**
 * Sorts the rows of a file into new, changed, unchanged and rejected. A key that occurs twice in the file is
 * unchanged the second time if the content is the same, and rejected with the line of the first if not.
 */
export const classify = <T>(
  rows: readonly Placed<T>[],
  readRejected: readonly RejectedRow[],
  options: ClassifyOptions<T>,
): Changes<T> => finish(classifyInSteps(rows, readRejected, options));

/** Rows between two pauses. */
const STEP = 200;

/** The same, with a pause now and then. */
export function* classifyInSteps<T>(
  rows: readonly Placed<T>[],
  readRejected: readonly RejectedRow[],
  options: ClassifyOptions<T>,
): Steps<Changes<T>> {
  const { keyOf, keyField, existing, same, objection, onDifference } = options;
  const added: Placed<T>[] = [];
  const changed: Replaced<T>[] = [];
  const waiting: Placed<T>[] = [];
  const rejected: RejectedRow[] = [...readRejected];
  const firstOf = new Map<string, Placed<T>>();
  let unchanged = 0;
  for (const [i, row] of rows.entries()) {
    if (i % STEP === STEP - 1) yield;
    const key = keyOf(row.value);
    const reject = (field: string, reason: string) =>
      rejected.push({ line: row.line, field: row.called?.[field] ?? field, reason, cells: row.cells });
    const first = firstOf.get(key);
    if (first) {
      if (same(first.value, row.value)) unchanged++;
      else reject(keyField, `occurs on line ${first.line} with other content`);
      continue;
    }
    const objected = objection(row.value);
    if (objected) {
      reject(objected.field, objected.reason);
      continue;
    }
    firstOf.set(key, row);
    if (options.waits?.(row.value)) {
      if (options.waitsAlready?.(key, row.value)) unchanged++;
      else waiting.push(row);
      continue;
    }
    const known = existing.get(key);
    if (known === undefined) added.push(row);
    else if (same(known, row.value)) unchanged++;
    else if (onDifference === 'change') changed.push({ ...withValue(row, row.value), before: known });
    else reject(keyField, 'was imported before with other content');
  }
  rejected.sort((a, b) => a.line - b.line);
  return { added, changed, unchanged, waiting, rejected };
}
