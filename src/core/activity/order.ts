import type { EventColumns } from './events';

/** Rows of the columns grouped by student and, within one, in order of time. */
export interface EventOrder {
  /** rows[p] is the row at position p. */
  readonly rows: Int32Array;
  /** Positions offsets[s] .. offsets[s + 1] - 1 are those of student s. */
  readonly offsets: Int32Array;
}

/**
 * Orders events by student, instant, logins first, kind and duration. Rows equal in all of these are
 * interchangeable, so the order of the input never shows in a result.
 *
 * A counting sort puts students together; within a student, instant and row are packed in one double and sorted by
 * the native numeric sort, some ten times faster than a comparator over a million rows.
 */
export function orderEvents(events: EventColumns): EventOrder {
  const { count, studentCount, student, at } = events;
  const offsets = new Int32Array(studentCount + 1);
  let earliest = Infinity;
  let latest = -Infinity;
  for (let i = 0; i < count; i++) {
    offsets[student[i]! + 1]!++;
    const t = at[i]!;
    if (t < earliest) earliest = t;
    if (t > latest) latest = t;
  }
  for (let s = 0; s < studentCount; s++) offsets[s + 1]! += offsets[s]!;
  const next = offsets.slice(0, studentCount);
  const rows = new Int32Array(count);
  for (let i = 0; i < count; i++) rows[next[student[i]!]!++] = i;

  const keys = new Float64Array(count);
  const scratch = new Int32Array(count);
  for (let s = 0; s < studentCount; s++) {
    const from = offsets[s]!;
    const size = offsets[s + 1]! - from;
    if (size < 2) continue;
    const bucket = rows.subarray(from, from + size);
    // Instants are whole milliseconds; the packed key must stay a whole number that a double holds exactly.
    if ((latest - earliest + 1) * size < Number.MAX_SAFE_INTEGER) {
      const packed = keys.subarray(from, from + size);
      for (let k = 0; k < size; k++) packed[k] = (at[bucket[k]!]! - earliest) * size + k;
      packed.sort();
      const copy = scratch.subarray(0, size);
      copy.set(bucket);
      for (let k = 0; k < size; k++) bucket[k] = copy[packed[k]! % size]!;
    } else {
      bucket.sort((a, b) => at[a]! - at[b]!);
    }
    settleTies(events, bucket);
  }
  return { rows, offsets };
}

/** Orders runs of equal instants by the remaining columns. Runs are short, so insertion is enough. */
function settleTies(events: EventColumns, bucket: Int32Array): void {
  const { at } = events;
  for (let k = 1; k < bucket.length; k++) {
    const row = bucket[k]!;
    if (at[row] !== at[bucket[k - 1]!]) continue;
    let j = k;
    while (j > 0 && at[bucket[j - 1]!] === at[row] && compareTied(events, bucket[j - 1]!, row) > 0) {
      bucket[j] = bucket[j - 1]!;
      j--;
    }
    bucket[j] = row;
  }
}

function compareTied(events: EventColumns, a: number, b: number): number {
  const { login, kind, duration } = events;
  if (login[a] !== login[b]) return login[b]! - login[a]!;
  if (kind[a] !== kind[b]) return kind[a]! - kind[b]!;
  if (!duration) return 0;
  const da = Number.isNaN(duration[a]!) ? Infinity : duration[a]!;
  const db = Number.isNaN(duration[b]!) ? Infinity : duration[b]!;
  return da === db ? 0 : da - db;
}
