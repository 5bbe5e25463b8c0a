import { dayIndex, type DayGrid } from '../calendar/dayGrid';
import type { Span } from '../calendar/meetings';
import { SECOND_MS, type Seconds } from '../units';
import type { EventColumns } from './events';
import type { Sessionized } from './sessions';

/** The part of an event's dwell that falls on one local day. */
export interface Piece {
  student: number;
  /** Row of the event in the columns. */
  row: number;
  /** Index of the day in the grid. */
  day: number;
  seconds: Seconds;
  /** The part inside a meeting of the student's section. */
  inClassSeconds: Seconds;
  /** True for the piece with which the event begins: each event has one, even if it lasted no time. */
  isFirst: boolean;
}

/**
 * Cuts the dwell of every event at local midnights and meetings, in order of student and time. The piece handed to
 * `visit` is the same object each time: a million of them are not worth a million objects.
 *
 * @param grid covers every instant of the events and one day more (a dwell may run into it)
 * @param meetingsOf the class hours of a student's section, in order and not overlapping
 */
export function eachPiece(
  events: EventColumns,
  { order, dwells }: Sessionized,
  grid: DayGrid,
  meetingsOf: (student: number) => readonly Span[],
  visit: (piece: Readonly<Piece>) => void,
): void {
  const piece: Piece = { student: 0, row: 0, day: 0, seconds: 0, inClassSeconds: 0, isFirst: true };
  for (let s = 0; s < events.studentCount; s++) {
    const meetings = meetingsOf(s);
    let meeting = 0;
    piece.student = s;
    for (let p = order.offsets[s]!; p < order.offsets[s + 1]!; p++) {
      let from = order.at[p]!;
      const until = from + dwells.dwell[p]!;
      piece.row = order.rows[p]!;
      piece.day = dayIndex(grid, from);
      piece.isFirst = true;
      while (meeting < meetings.length && meetings[meeting]!.until <= from) meeting++;
      do {
        const cut = Math.min(until, grid.starts[piece.day + 1] ?? until);
        piece.seconds = (cut - from) / SECOND_MS;
        piece.inClassSeconds = overlap(from, cut, meetings, meeting) / SECOND_MS;
        visit(piece);
        piece.isFirst = false;
        from = cut;
        piece.day++;
      } while (from < until);
    }
  }
}

/** Milliseconds of [from, until) inside the meetings, looking from number `first` on. */
function overlap(from: number, until: number, meetings: readonly Span[], first: number): number {
  let shared = 0;
  for (let m = first; m < meetings.length && meetings[m]!.from < until; m++) {
    shared += Math.max(0, Math.min(until, meetings[m]!.until) - Math.max(from, meetings[m]!.from));
  }
  return shared;
}
