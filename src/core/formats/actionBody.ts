import { parseJson } from './json';

/** Marks that stand for what JSON cannot write: nothing, no number, the numbers without end, and an instant. */
const MARKS = /^\$(undefined|NaN|Infinity|-Infinity|-0|D\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z)$/;
/** What stands for a part that stands in the text already, by the keys that lead to it from the top (`$0:0:code`). */
const SAME = /^\$0(:.*)?$/s;

/**
 * Whether the text of a call of an action is one that a page of ours sends: a list in JSON of plain values, with marks
 * for what JSON has no word for. The framework fails over anything else.
 */
export function isActionBody(text: string): boolean {
  const read = parseJson(text);
  return read.ok && Array.isArray(read.value) && isPlain(read.value, read.value, new Set());
}

/** @param ended lists and records that were gone through to their end: what stands again is one of them, never one around it */
function isPlain(value: unknown, whole: unknown, ended: Set<unknown>): boolean {
  if (typeof value === 'string') {
    if (!value.startsWith('$') || value.startsWith('$$')) return true;
    return MARKS.test(value) || (SAME.test(value) && ended.has(found(whole, value.split(':').slice(1))));
  }
  if (typeof value !== 'object' || value === null) return true;
  for (const [key, inner] of Object.entries(value))
    if (key === '__proto__' || !isPlain(inner, whole, ended)) return false;
  ended.add(value);
  return true;
}

/** What stands where keys lead to; nothing if nothing does. */
function found(whole: unknown, keys: readonly string[]): unknown {
  let at = whole;
  for (const key of keys) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return undefined;
    at = (at as Record<string, unknown>)[key];
  }
  return at;
}
