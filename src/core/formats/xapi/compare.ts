import type { Statement } from './statement';
import { instantOf } from './timestamp';

/** What a store adds or may change (part two, 2.3.1 and 4.4): no part of whether two statements are the same. */
const ADDED = new Set(['id', 'stored', 'authority', 'version', 'timestamp', 'attachments']);

/** A value with the keys of its objects in order, and arrays of one activity as the activity. */
function canonical(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(canonical);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]): [string, unknown] => [
        key,
        ['parent', 'grouping', 'category', 'other'].includes(key) && !Array.isArray(inner)
          ? [canonical(inner)]
          : canonical(inner),
      ]),
  );
}

/** What a statement says, without what a store adds or may change; the same text for the same content. */
export const contentOf = (statement: Statement): string =>
  JSON.stringify(canonical(Object.fromEntries(Object.entries(statement).filter(([key]) => !ADDED.has(key)))));

/**
 * Whether two statements under one id say the same. A stated timestamp counts by its instant; one that the store set
 * does not.
 */
export function sameStatement(a: Statement, b: Statement): boolean {
  if (a.timestamp != null && b.timestamp != null && instantOf(a.timestamp) !== instantOf(b.timestamp))
    return false;
  return contentOf(a) === contentOf(b);
}
