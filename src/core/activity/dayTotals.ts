import type { DayGrid } from '../calendar/dayGrid';
import type { Span } from '../calendar/meetings';
import type { LocalDate, Seconds } from '../units';
import { type EventColumns } from './events';
import { ROLE } from '../course/kinds';
import { eachPiece } from './pieces';
import type { Sessionized } from './sessions';

/** What one student did on one local day. */
export interface DayTotal {
  readonly student: number;
  readonly date: LocalDate;
  readonly seconds: Seconds;
  /** The part that falls in a meeting of the student's section. */
  readonly inClassSeconds: Seconds;
  readonly logins: number;
  readonly events: number;
  readonly views: number;
  readonly contributions: number;
}

type Running = { -readonly [K in Exclude<keyof DayTotal, 'student' | 'date'>]: number };
const nothing = (): Running => ({
  seconds: 0,
  inClassSeconds: 0,
  logins: 0,
  events: 0,
  views: 0,
  contributions: 0,
});

/**
 * Time on task, logins and events by student and local day. A dwell that runs over local midnight is cut there;
 * the part of it inside a meeting counts as in class. Days without any event or time have no row.
 */
export function dayTotals(
  events: EventColumns,
  cut: Sessionized,
  grid: DayGrid,
  meetingsOf: (student: number) => readonly Span[],
): DayTotal[] {
  const byStudent = Array.from({ length: events.studentCount }, () => new Map<number, Running>());
  eachPiece(events, cut, grid, meetingsOf, (piece) => {
    const days = byStudent[piece.student]!;
    let running = days.get(piece.day);
    if (!running) days.set(piece.day, (running = nothing()));
    running.seconds += piece.seconds;
    running.inClassSeconds += piece.inClassSeconds;
    if (!piece.isFirst) return;
    running.events++;
    running.logins += events.login[piece.row]!;
    const role = events.role?.[piece.row];
    if (role === ROLE.view) running.views++;
    else if (role === ROLE.contribution) running.contributions++;
  });
  return byStudent.flatMap((days, student) =>
    [...days]
      .sort((a, b) => a[0] - b[0])
      .map(([day, total]) => ({ student, date: grid.dates[day]!, ...total })),
  );
}
