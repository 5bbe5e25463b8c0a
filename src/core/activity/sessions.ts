import { SECOND_MS } from '../units';
import { dwellTimes, type Dwells, type SessionOptions } from './dwell';
import type { EventColumns } from './events';
import { orderEvents, type EventOrder } from './order';

/** Runs of events, as columns in order of student and start. */
export interface SessionColumns {
  readonly count: number;
  readonly student: Int32Array;
  readonly start: Float64Array;
  /** End of the last event's dwell. */
  readonly end: Float64Array;
  /** Time on task; less than end - start where stated durations leave pauses. */
  readonly seconds: Float64Array;
  readonly events: Int32Array;
}

export interface Sessionized {
  readonly order: EventOrder;
  readonly dwells: Dwells;
  readonly sessions: SessionColumns;
}

/**
 * Cuts events into sessions: a new one starts where the gap is strictly greater than the limit, or at a login.
 * Rows in any order; duplicates already dropped. See `dwellTimes` for the time on task.
 *
 * @param order the order of the events, if the caller has cut them before
 */
export function sessionize(
  events: EventColumns,
  options: SessionOptions,
  order: EventOrder = orderEvents(events),
): Sessionized {
  const dwells = dwellTimes(events, order, options);
  const { at, offsets } = order;
  const { dwell, starts } = dwells;
  let count = 0;
  for (let p = 0; p < events.count; p++) count += starts[p]!;
  const sessions = {
    count,
    student: new Int32Array(count),
    start: new Float64Array(count),
    end: new Float64Array(count),
    seconds: new Float64Array(count),
    events: new Int32Array(count),
  };
  let n = -1;
  for (let s = 0; s < events.studentCount; s++) {
    for (let p = offsets[s]!; p < offsets[s + 1]!; p++) {
      if (starts[p] === 1) {
        n++;
        sessions.student[n] = s;
        sessions.start[n] = at[p]!;
      }
      sessions.end[n] = at[p]! + dwell[p]!;
      sessions.seconds[n]! += dwell[p]!;
      sessions.events[n]!++;
    }
  }
  // Summed in whole milliseconds, which add without rounding.
  for (let i = 0; i < count; i++) sessions.seconds[i]! /= SECOND_MS;
  return { order, dwells, sessions };
}
