import { instantOf, startOfDay } from '../calendar/zone';
import type { LocalDate } from '../units';
import type { Stretch } from './heat';

/**
 * Share of a day's time on task that falls before a minute of its clock, 0 to 1; the time of a session is taken as
 * spread evenly over it. 1 on a day without any.
 *
 * @param stretches sessions of one student, ascending
 */
export function shareBefore(
  stretches: readonly Stretch[],
  day: LocalDate,
  minute: number,
  zone: string,
): number {
  const from = startOfDay(day, zone);
  const cut = instantOf(day, minute, zone);
  const until = instantOf(day, 24 * 60, zone);
  let before = 0;
  let all = 0;
  for (const s of stretches) {
    if (s.from >= until) break;
    if (s.until <= from) continue;
    const seconds = (a: number, b: number) =>
      s.until > s.from
        ? (s.seconds * Math.max(0, Math.min(s.until, b) - Math.max(s.from, a))) / (s.until - s.from)
        : 0;
    all += seconds(from, until);
    before += seconds(from, cut);
  }
  return all > 0 ? before / all : 1;
}
