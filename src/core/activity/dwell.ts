import { median } from '../statistics/quantile';
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
  /** The typical dwell by student and kind, where the caller knows it from more than these events. */
  readonly typical?: TypicalDwell;
}

/** A typical dwell in milliseconds by number of the student and kind; 0 where none is known. */
export type TypicalDwell = (student: number, kind: number) => number;

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
  const typical = options.last === 'own' ? (options.typical ?? typicalDwells(events, order)) : null;
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

/** How many dwells of a kind lasted so many whole seconds: counts[kind][second], seconds up to the usual limit. */
export type DwellCounts = Map<number, Int32Array>;
/** Length of the counts of a kind: 0 seconds to the usual limit. */
export const COUNTED_SECONDS = GAP_MINUTES.usual * 60 + 1;

/**
 * Dwells of events that are not the last of a session, in milliseconds, student by student and, within one, in order
 * of time. The sessions for this are always cut at the usual 30 minutes, so that a typical dwell does not itself move
 * with the limit that is being tried.
 */
function eachInnerDwell(
  { login, duration, kind, studentCount }: EventColumns,
  { rows, at, offsets }: EventOrder,
  take: (student: number, kind: number, lasted: number) => void,
): void {
  const gap = GAP_MINUTES.usual * MINUTE_MS;
  for (let s = 0; s < studentCount; s++) {
    for (let p = offsets[s]!; p + 1 < offsets[s + 1]!; p++) {
      const row = rows[p]!;
      const nextRow = rows[p + 1]!;
      const toNext = at[p + 1]! - at[p]!;
      if (toNext > gap || login[nextRow] === 1) continue;
      const stated = duration ? duration[row]! * SECOND_MS : NaN;
      take(s, kind[row]!, stated < toNext ? stated : toNext);
    }
  }
}

/** Counts the dwells of all students given, by kind and whole seconds (rounded down). Counts of students add up. */
export function countDwells(events: EventColumns, order: EventOrder): DwellCounts {
  const counts: DwellCounts = new Map();
  eachInnerDwell(events, order, (_, kind, lasted) => addDwell(counts, kind, lasted));
  return counts;
}

function addDwell(counts: DwellCounts, kind: number, lasted: number): void {
  let ofKind = counts.get(kind);
  if (!ofKind) counts.set(kind, (ofKind = new Int32Array(COUNTED_SECONDS)));
  ofKind[Math.floor(lasted / SECOND_MS)]!++;
}

/**
 * Median in milliseconds by kind, from counts of whole seconds, of a class or of one student; kinds with fewer than
 * five dwells are left out.
 */
export function medianDwells(counts: DwellCounts): Map<number, number> {
  const medians = new Map<number, number>();
  for (const [kind, ofKind] of counts) {
    const n = ofKind.reduce((sum, c) => sum + c, 0);
    if (n < LEAST_DWELLS) continue;
    // The median of an even number is the mean of the two in the middle (type 7, as everywhere).
    const middle = [(n - 1) >> 1, n >> 1];
    let below = 0;
    const found: number[] = [];
    for (let second = 0; found.length < 2; second++) {
      below += ofKind[second]!;
      while (found.length < 2 && below > middle[found.length]!) found.push(second);
    }
    medians.set(kind, ((found[0]! + found[1]!) / 2) * SECOND_MS);
  }
  return medians;
}

/**
 * The typical dwell by student and kind: the student's own median over the events that are not the last of a session,
 * the class's median for a kind of which the student has fewer than five, 0 if the class has fewer than five too.
 * Medians are over whole seconds, so that they can be kept as counts and follow what comes in.
 */
export function typicalDwells(events: EventColumns, order: EventOrder): TypicalDwell {
  const own = new Map<number, number>();
  const counts: DwellCounts = new Map();
  let current = -1;
  let lists = new Map<number, number[]>();
  const finish = () => {
    for (const [k, values] of lists) {
      if (values.length >= LEAST_DWELLS) own.set(current * 256 + k, median(values)!);
    }
  };
  eachInnerDwell(events, order, (student, kind, lasted) => {
    if (student !== current) {
      finish();
      current = student;
      lists = new Map();
    }
    const whole = Math.floor(lasted / SECOND_MS) * SECOND_MS;
    const list = lists.get(kind);
    if (list) list.push(whole);
    else lists.set(kind, [whole]);
    addDwell(counts, kind, lasted);
  });
  finish();
  const medians = medianDwells(counts);
  return (student, k) => own.get(student * 256 + k) ?? medians.get(k) ?? 0;
}
