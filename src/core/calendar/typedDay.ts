import type { LocalDate } from '../units';
import { addDays, daysBetween } from './zone';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** The day of a year, month and day of the month; null if there is none. */
function dayOf(year: number, month: number, day: number): LocalDate | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  const text = date.toISOString().slice(0, 10);
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? text : null;
}

/** Of the same day in the years around it, the one nearest to a day. */
function nearest(month: number, day: number, today: LocalDate): LocalDate | null {
  const year = Number(today.slice(0, 4));
  const years = [year - 1, year, year + 1].flatMap((y) => dayOf(y, month, day) ?? []);
  return years.reduce<LocalDate | null>(
    (best, d) =>
      best == null || Math.abs(daysBetween(today, d)) < Math.abs(daysBetween(today, best)) ? d : best,
    null,
  );
}

/**
 * Reads a day as people type it, the day before the month: "25 Nov", "25 November 2026", "25.11.", "25/11/2026", "today",
 * "tomorrow", "yesterday", or "2026-11-25". Without a year it is the nearest such day to today. Null for anything else.
 */
export function typedDay(text: string, today: LocalDate): LocalDate | null {
  const typed = text.trim().toLowerCase().replace(/\s+/g, ' ');
  const near = { today: 0, tomorrow: 1, yesterday: -1 }[typed];
  if (near != null) return addDays(today, near);
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed);
  if (iso) return dayOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  // A weekday before it is read over: the day itself says which it is.
  const plain = typed.replace(/^(mon|tue|wed|thu|fri|sat|sun)[a-z]*,? /, '');
  const [, day, name, year] = /^(\d{1,2})\.? ([a-z]{3,9})\.?(?:,? (\d{4}))?$/.exec(plain) ?? [];
  const month = name ? MONTHS.indexOf(name.slice(0, 3)) + 1 : 0;
  if (day && month > 0)
    return year ? dayOf(Number(year), month, Number(day)) : nearest(month, Number(day), today);
  const [, d, m, y] = /^(\d{1,2})[./ ](\d{1,2})(?:[./ ](\d{4})?)?$/.exec(plain) ?? [];
  if (!d || !m) return null;
  return y ? dayOf(Number(y), Number(m), Number(d)) : nearest(Number(m), Number(d), today);
}
