import { quantileSorted } from '../statistics/quantile';
import { MINUTE_MS, SECOND_MS, type Minutes } from '../units';
import type { EventColumns } from './events';
import type { EventOrder } from './order';

/** Limits of the settable gap, and its default. */
export const GAP_MINUTES = { least: 5, usual: 30, most: 120 } as const;
/** A student's own median is trusted from this many dwells of a kind on; so is the class's. */
const LEAST_DWELLS = 5;

export interface SessionOptions {
  /** A gap strictly greater starts a session. */
  readonly gapMinutes: Minutes;
  /** What the last event of a session lasts: a typical dwell, or nothing. */
  readonly last: 'own' | 'zero';
}

export interface Dwells {
  /** dwell[p]: milliseconds that the event at position p lasted. */
  readonly dwell: Float64Array;
  /** starts[p]: 1 if a session starts at position p. */
  readonly starts: Uint8Array;
}

/**
 * How long each event lasted: until the next of its session, or its stated duration if that is shorter. The last
 * event of a session gets its typical dwell (see `typicalDwells`), never over the limit, never past the student's
 * next event, and never longer than its stated duration. Intervals of one student therefore never overlap, and the
 * total can only grow with the limit.
 *
 * Source of the rule: Kovanovic et al. 2015, J. Learning Analytics 2(3), on what estimates of time on task do to
 * findings.
 */
export function dwellTimes(events: EventColumns, order: EventOrder, options: SessionOptions): Dwells {
  const { login, duration, kind, studentCount, count } = events;
  const { rows, at, offsets } = order;
  const gap = options.gapMinutes * MINUTE_MS;
  const typical = options.last === 'own' ? typicalDwells(events, order) : null;
  const dwell = new Float64Array(count);
  const starts = new Uint8Array(count);
  for (let s = 0; s < studentCount; s++) {
    const until = offsets[s + 1]!;
    let opens = 1;
    for (let p = offsets[s]!; p < until; p++) {
      const row = rows[p]!;
      starts[p] = opens;
      let lasted: number;
      if (p + 1 === until) {
        lasted = typical ? Math.min(typical(s, kind[row]!), gap) : 0;
      } else {
        const nextRow = rows[p + 1]!;
        const toNext = at[p + 1]! - at[p]!;
        opens = toNext > gap || login[nextRow] === 1 ? 1 : 0;
        lasted = opens === 0 ? toNext : typical ? Math.min(typical(s, kind[row]!), gap, toNext) : 0;
      }
      if (duration) {
        const stated = duration[row]! * SECOND_MS;
        if (stated < lasted) lasted = stated;
      }
      dwell[p] = lasted;
    }
  }
  return { dwell, starts };
}

/**
 * The typical dwell in milliseconds by student and kind: the student's own median over the events that are not the
 * last of a session, the class's median for a kind of which the student has fewer than five, 0 if the class has
 * fewer than five too. The sessions for this are always cut at the usual 30 minutes, so that the typical dwell does
 * not itself move with the limit that is being tried.
 */
export function typicalDwells(
  events: EventColumns,
  order: EventOrder,
): (student: number, kind: number) => number {
  const { login, duration, kind, studentCount } = events;
  const { rows, at, offsets } = order;
  const gap = GAP_MINUTES.usual * MINUTE_MS;
  const own = new Map<number, number>();
  const ofClass: number[][] = Array.from({ length: 256 }, () => []);
  const ofStudent: number[][] = Array.from({ length: 256 }, () => []);
  for (let s = 0; s < studentCount; s++) {
    const seen = new Set<number>();
    for (let p = offsets[s]!; p + 1 < offsets[s + 1]!; p++) {
      const row = rows[p]!;
      const nextRow = rows[p + 1]!;
      const toNext = at[p + 1]! - at[p]!;
      if (toNext > gap || login[nextRow] === 1) continue;
      const stated = duration ? duration[row]! * SECOND_MS : NaN;
      const k = kind[row]!;
      ofStudent[k]!.push(stated < toNext ? stated : toNext);
      seen.add(k);
    }
    for (const k of seen) {
      const values = ofStudent[k]!;
      if (values.length >= LEAST_DWELLS) own.set(s * 256 + k, medianOf(values));
      for (const v of values) ofClass[k]!.push(v);
      ofStudent[k] = [];
    }
  }
  const classMedian = ofClass.map((values) => (values.length >= LEAST_DWELLS ? medianOf(values) : 0));
  return (student, k) => own.get(student * 256 + k) ?? classMedian[k]!;
}

const medianOf = (values: number[]) => quantileSorted(Float64Array.from(values).sort(), 0.5) ?? 0;
