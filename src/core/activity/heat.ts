import { localDate, startOfDay } from '../calendar/zone';
import { HOUR_MS, MINUTE_MS, type Instant, type Minutes } from '../units';

/** A run of time on task; `seconds` may be less than its length where stated durations leave pauses. */
export interface Stretch {
  readonly from: Instant;
  readonly until: Instant;
  readonly seconds: number;
}

/**
 * Minutes by weekday (0 Monday to 6 Sunday) and hour on the wall clock of a zone. A stretch is cut at full hours and
 * its time spread evenly over its length. On the day the clocks go back the hour that occurs twice holds the time of
 * both; on the day they go forward the missing hour holds none.
 */
export function hoursOfWeek(stretches: Iterable<Stretch>, zone: string): Minutes[][] {
  const minutes = Array.from({ length: 7 }, () => new Array<number>(24).fill(0));
  const offsets = new Map<number, number>();
  // The wall clock moves by the offset of the zone, which is asked once for every quarter of an hour at most.
  const wallOf = (at: Instant) => {
    const quarter = Math.floor(at / (15 * MINUTE_MS));
    let offset = offsets.get(quarter);
    if (offset == null) {
      const start = quarter * 15 * MINUTE_MS;
      const date = localDate(start, zone);
      offset = wallOffset(start, date, zone);
      offsets.set(quarter, offset);
    }
    return at + offset;
  };
  for (const { from, until, seconds } of stretches) {
    const share = until > from ? seconds / ((until - from) / 1000) : 0;
    let at = from;
    while (at < until) {
      const wall = wallOf(at);
      const hourEnd = at + (HOUR_MS - (((wall % HOUR_MS) + HOUR_MS) % HOUR_MS));
      const quarterEnd = (Math.floor(at / (15 * MINUTE_MS)) + 1) * 15 * MINUTE_MS;
      const cut = Math.min(until, hourEnd, quarterEnd);
      const clock = new Date(wall);
      minutes[(clock.getUTCDay() + 6) % 7]![clock.getUTCHours()]! += ((cut - at) / MINUTE_MS) * share;
      at = cut;
    }
  }
  return minutes;
}

/** How far the wall clock of the zone is ahead of UTC at an instant, in milliseconds. */
function wallOffset(at: Instant, date: string, zone: string): number {
  const utcMidnight = Date.parse(`${date}T00:00:00Z`);
  const midnight = startOfDay(date, zone);
  // Days without a change of clocks: the offset of midnight holds all day, unless the day has another length.
  const next = startOfDay(localDate(midnight + 36 * HOUR_MS, zone), zone);
  if (next - midnight === 24 * HOUR_MS) return utcMidnight - midnight;
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(at));
  const part = (type: string) => Number(parts.find((p) => p.type === type)!.value);
  return (
    utcMidnight + (part('hour') * 60 + part('minute')) * MINUTE_MS - Math.floor(at / MINUTE_MS) * MINUTE_MS
  );
}

/** The hour of the week with the most time; null if there is none. */
export function busiest(minutes: readonly (readonly Minutes[])[]): { day: number; hour: number } | null {
  let best: { day: number; hour: number } | null = null;
  minutes.forEach((hours, day) =>
    hours.forEach((m, hour) => {
      if (m > 0 && (best == null || m > minutes[best.day]![best.hour]!)) best = { day, hour };
    }),
  );
  return best;
}
