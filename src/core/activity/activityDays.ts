import type { DayGrid } from '../calendar/dayGrid';
import type { Span } from '../calendar/meetings';
import type { LocalDate, Seconds } from '../units';
import { type EventColumns } from './events';
import { ROLE } from '../course/kinds';
import { eachPiece } from './pieces';
import type { Sessionized } from './sessions';

/** What one student did with one activity on one local day. */
export interface ActivityDay {
  readonly student: number;
  /** Number of the activity, as in the columns. */
  readonly activity: number;
  readonly date: LocalDate;
  readonly seconds: Seconds;
  readonly inClassSeconds: Seconds;
  readonly views: number;
  readonly contributions: number;
}

/**
 * Time on task, views and contributions by student, activity and local day, cut as in `dayTotals`. Events of no
 * activity (logins) are left out, so the sum over activities is at most the total of the day.
 *
 * @param activity number of the activity of each row, under 0 for none
 */
export function activityDays(
  events: EventColumns,
  activity: Int32Array,
  cut: Sessionized,
  grid: DayGrid,
  meetingsOf: (student: number) => readonly Span[],
): ActivityDay[] {
  type Running = { -readonly [K in keyof ActivityDay]: ActivityDay[K] };
  const totals: Running[] = [];
  let student = -1;
  // Students come one after the other; the running totals of one are enough.
  const open = new Map<number, Running>();
  const days = grid.dates.length + 1;
  eachPiece(events, cut, grid, meetingsOf, (piece) => {
    if (piece.student !== student) {
      student = piece.student;
      open.clear();
    }
    const a = activity[piece.row]!;
    if (a < 0) return;
    const key = a * days + piece.day;
    let running = open.get(key);
    if (!running) {
      running = {
        student,
        activity: a,
        date: grid.dates[piece.day]!,
        seconds: 0,
        inClassSeconds: 0,
        views: 0,
        contributions: 0,
      };
      open.set(key, running);
      totals.push(running);
    }
    running.seconds += piece.seconds;
    running.inClassSeconds += piece.inClassSeconds;
    if (!piece.isFirst) return;
    const role = events.role?.[piece.row];
    if (role === ROLE.view) running.views++;
    else if (role === ROLE.contribution) running.contributions++;
  });
  return totals;
}
