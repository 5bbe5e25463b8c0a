import { dayIndex, type DayGrid } from '../calendar/dayGrid';
import type { Span } from '../calendar/meetings';
import { SECOND_MS, type LocalDate, type Seconds } from '../units';
import type { EventColumns } from './events';
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
}

interface Running {
  seconds: number;
  inClass: number;
  logins: number;
  events: number;
}

/**
 * Time on task, logins and events by student and local day. A dwell that runs over local midnight is cut there;
 * the part of it inside a meeting counts as in class. Days without any event or time have no row.
 *
 * @param grid covers every instant of the events and one day more (a dwell may run into it)
 * @param meetingsOf the class hours of a student's section, in order and not overlapping
 */
export function dayTotals(
  events: EventColumns,
  { order, dwells }: Sessionized,
  grid: DayGrid,
  meetingsOf: (student: number) => readonly Span[],
): DayTotal[] {
  const totals: DayTotal[] = [];
  for (let s = 0; s < events.studentCount; s++) {
    const days = new Map<number, Running>();
    const dayOf = (day: number) => {
      let running = days.get(day);
      if (!running) days.set(day, (running = { seconds: 0, inClass: 0, logins: 0, events: 0 }));
      return running;
    };
    const meetings = meetingsOf(s);
    let meeting = 0;
    for (let p = order.offsets[s]!; p < order.offsets[s + 1]!; p++) {
      const row = order.rows[p]!;
      let from = order.at[p]!;
      const until = from + dwells.dwell[p]!;
      let day = dayIndex(grid, from);
      const first = dayOf(day);
      first.events++;
      first.logins += events.login[row]!;
      while (meeting < meetings.length && meetings[meeting]!.until <= from) meeting++;
      while (from < until) {
        const cut = Math.min(until, grid.starts[day + 1] ?? until);
        const running = dayOf(day);
        running.seconds += (cut - from) / SECOND_MS;
        running.inClass += overlap(from, cut, meetings, meeting) / SECOND_MS;
        from = cut;
        day++;
      }
    }
    for (const [day, total] of [...days].sort((a, b) => a[0] - b[0])) {
      totals.push({
        student: s,
        date: grid.dates[day]!,
        seconds: total.seconds,
        inClassSeconds: total.inClass,
        logins: total.logins,
        events: total.events,
      });
    }
  }
  return totals;
}

/** Milliseconds of [from, until) inside the meetings, looking from number `first` on. */
function overlap(from: number, until: number, meetings: readonly Span[], first: number): number {
  let shared = 0;
  for (let m = first; m < meetings.length && meetings[m]!.from < until; m++) {
    shared += Math.max(0, Math.min(until, meetings[m]!.until) - Math.max(from, meetings[m]!.from));
  }
  return shared;
}
