import { tzOffset } from '@date-fns/tz';
import { DAY_MS, MINUTE_MS, type Instant, type LocalDate } from '../units';

/** Offset of `zone` from UTC at an instant, in milliseconds (east positive). */
function offsetMs(instant: Instant, zone: string): number {
  return tzOffset(zone, new Date(instant)) * MINUTE_MS;
}

/** True if the runtime's tz database knows the zone (IANA name). */
export function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return zone.includes('/') || zone === 'UTC';
  } catch {
    return false;
  }
}

/** The calendar day of an instant in a zone. */
export function localDate(instant: Instant, zone: string): LocalDate {
  return new Date(instant + offsetMs(instant, zone)).toISOString().slice(0, 10);
}

/** Minutes since local midnight on the wall clock of the zone. */
export function minuteOfDay(instant: Instant, zone: string): number {
  const wall = new Date(instant + offsetMs(instant, zone));
  return wall.getUTCHours() * 60 + wall.getUTCMinutes();
}

/**
 * The instant at which the wall clock of `zone` shows `date` at `minute` minutes after midnight.
 * A wall time skipped by a change to summer time gives the first instant after the gap, or the last of its day where that
 * is on the next day (a due date stays on its day); one that occurs twice gives the earlier. Source: the behaviour "compatible" of RFC 5545 section 3.3.5 for gaps and repeats.
 */
export function instantOf(date: LocalDate, minute: number, zone: string): Instant {
  const wall = Date.parse(`${date}T00:00:00Z`) + minute * MINUTE_MS;
  const before = offsetMs(wall - DAY_MS, zone);
  const after = offsetMs(wall + DAY_MS, zone);
  const candidates = [wall - Math.max(before, after), wall - Math.min(before, after)];
  for (const candidate of candidates) {
    if (candidate + offsetMs(candidate, zone) === wall) return candidate;
  }
  // In a gap: walk to the transition by bisection, which is where the clock first shows something later.
  let low = wall - Math.max(before, after) - DAY_MS;
  let high = wall - Math.min(before, after) + DAY_MS;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (middle + offsetMs(middle, zone) >= wall) high = middle;
    else low = middle;
  }
  // A gap over midnight: the day ends where it begins, and its last minutes are its last instant.
  const day = new Date(wall).toISOString().slice(0, 10);
  return localDate(high, zone) > day ? high - 1 : high;
}

/** Starts of days already found: the same few hundred are asked for once a student and day. */
const starts = new Map<string, Instant>();
const MOST_STARTS = 5000;

/** First instant of a calendar day in a zone (which is not always 00:00: some changes happen at midnight). */
export function startOfDay(date: LocalDate, zone: string): Instant {
  const key = `${date} ${zone}`;
  const known = starts.get(key);
  if (known !== undefined) return known;
  const start = instantOf(date, 0, zone);
  if (starts.size >= MOST_STARTS) starts.clear();
  starts.set(key, start);
  return start;
}

/** The calendar day `days` after (or before, if negative) another. */
export function addDays(date: LocalDate, days: number): LocalDate {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
}

/** Calendar days from `from` to `to`; negative if `to` is earlier. */
export function daysBetween(from: LocalDate, to: LocalDate): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / DAY_MS);
}

/** ISO weekday of a calendar day: 1 Monday to 7 Sunday. */
export function weekday(date: LocalDate): number {
  return new Date(`${date}T00:00:00Z`).getUTCDay() || 7;
}
