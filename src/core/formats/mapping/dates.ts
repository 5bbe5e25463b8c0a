import { instantOf, localDate, minuteOfDay } from '../../calendar/zone';
import { no, ok, type Result } from '../../result';
import type { Instant, LocalDate } from '../../units';
import { parseDate } from '../../calendar/day';
import { parseInstant, shorten } from '../../calendar/instant';
import type { DayOrder } from '../../course/mapping';

const DAY = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})\.?/;
const TIME = /^(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,]\d+)?)?\s*([ap]m)?$/i;

/** Reads a day as a source writes it: `2026-09-28` always, and else in the order of its parts; two digits are of this century. */
export function parseDayIn(text: string, order: DayOrder): Result<LocalDate> {
  const match = DAY.exec(text);
  if (!match || match[0] !== text) return no(`“${shorten(text)}” is not a day`);
  const [, a, b, c] = match as unknown as [string, string, string, string];
  const yearFirst = a.length === 4 || order === 'year first';
  const [year, month, day] = yearFirst ? [a, b, c] : order === 'day first' ? [c, b, a] : [c, a, b];
  const full = year.length <= 2 ? `20${year.padStart(2, '0')}` : year.padStart(4, '0');
  const iso = `${full}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  const parsed = parseDate(iso);
  return parsed.ok ? parsed : no(`“${shorten(text)}” names a day that does not exist`);
}

/**
 * Reads an instant as a source writes it: ISO 8601 with zone as it stands; anything else as day and time on the wall
 * clock of `zone`. A time that the clock skips in spring is refused; one that occurs twice in autumn is the earlier
 * (RFC 5545, 3.3.5).
 *
 * @param dayAlone what a day without a time means: its first minute, or its last
 */
export function parseInstantIn(
  text: string,
  order: DayOrder,
  zone: string,
  dayAlone: 'start' | 'end' = 'start',
): Result<Instant> {
  const exact = parseInstant(text);
  if (exact.ok || /(Z|[+-]\d\d:?\d\d)$/i.test(text)) return exact;
  const [, dayText = '', timeText] = /^([^T\s]+)(?:[T\s]+(.+))?$/.exec(text.replace(/,\s*/, ' ')) ?? [];
  const day = parseDayIn(dayText, order);
  if (!day.ok) return no(`“${shorten(text)}” is neither an instant nor a day in the order “${order}”`);
  if (timeText === undefined) return ok(instantOf(day.value, dayAlone === 'start' ? 0 : 24 * 60 - 1, zone));
  const match = TIME.exec(timeText.trim());
  if (!match) return no(`“${shorten(text)}” has a time that is not like 18:30`);
  const half = match[4]?.toLowerCase();
  const hour = half ? (Number(match[1]) % 12) + (half === 'pm' ? 12 : 0) : Number(match[1]);
  const minute = hour * 60 + Number(match[2]);
  if (hour > 23 || Number(match[2]) > 59 || Number(match[3] ?? 0) > 59 || (half && Number(match[1]) > 12)) {
    return no(`“${shorten(text)}” names a time that does not exist`);
  }
  const at = instantOf(day.value, minute, zone);
  if (localDate(at, zone) !== day.value || minuteOfDay(at, zone) !== minute) {
    return no(`“${shorten(text)}” does not exist in ${zone}: the clock skips it`);
  }
  return ok(at + Number(match[3] ?? 0) * 1000);
}
