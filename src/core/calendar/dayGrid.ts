import { DAY_MS, type Instant, type LocalDate } from '../units';
import { addDays, localDate, startOfDay } from './zone';

/**
 * The first instants of consecutive local days, so that a hundred thousand instants can be cut into days without
 * asking the tz database about each.
 */
export interface DayGrid {
  readonly zone: string;
  readonly dates: readonly LocalDate[];
  /** starts[i] is the first instant of dates[i]; one more entry than dates, the end of the last day. */
  readonly starts: Float64Array;
}

/** A grid that covers every local day from that of `from` to that of `to`, both included. */
export function dayGrid(from: Instant, to: Instant, zone: string): DayGrid {
  const dates: LocalDate[] = [];
  const last = localDate(to, zone);
  for (let date = localDate(from, zone); date <= last; date = addDays(date, 1)) dates.push(date);
  const starts = new Float64Array(dates.length + 1);
  dates.forEach((date, i) => (starts[i] = startOfDay(date, zone)));
  starts[dates.length] = startOfDay(addDays(last, 1), zone);
  return { zone, dates, starts };
}

/** Index in the grid of the day that holds an instant. The instant must lie in the grid. */
export function dayIndex(grid: DayGrid, at: Instant): number {
  const first = grid.starts[0] ?? 0;
  // Days are 23 to 25 hours long, so the guess is off by one at the most.
  let i = Math.max(0, Math.min(grid.dates.length - 1, Math.floor((at - first) / DAY_MS)));
  while (i > 0 && at < grid.starts[i]!) i--;
  while (i < grid.dates.length - 1 && at >= grid.starts[i + 1]!) i++;
  return i;
}
