import { no, ok, type Result } from '../result';
import type { Instant } from '../units';

const PATTERN =
  /^(\d{4})-(\d\d)-(\d\d)[T ](\d\d):(\d\d)(?::(\d\d)(?:[.,](\d{1,9}))?)?(Z|z|[+-]\d\d(?::?\d\d)?)?$/;
export interface YearRange {
  readonly least: number;
  readonly most: number;
}

/** Years in which a course can be: anything outside is a slip of the source. */
export const PLAUSIBLE_YEARS: YearRange = { least: 1990, most: 2100 };
/** Any year that the notation can write and a date can hold as it stands (years under 100 it takes for 19xx). */
export const ANY_YEAR: YearRange = { least: 100, most: 9999 };

const daysInMonth = (year: number, month: number) => new Date(Date.UTC(year, month, 0)).getUTCDate();

/**
 * Reads an ISO 8601 instant with its zone (`Z` or an offset). An instant without zone is refused, since nobody can
 * know which hour it means; so are days that do not exist and years outside the range.
 */
export function parseInstant(text: string, years: YearRange = PLAUSIBLE_YEARS): Result<Instant> {
  const match = PATTERN.exec(text);
  if (!match) return no(`“${shorten(text)}” is not an instant like 2026-09-28T18:30:00Z`);
  const [, y, mo, d, h, mi, s, fraction, zone] = match;
  const year = Number(y);
  const month = Number(mo);
  const day = Number(d);
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) {
    return no(`“${text}” names a day that does not exist`);
  }
  if (Number(h) > 23 || Number(mi) > 59 || Number(s ?? 0) > 59)
    return no(`“${text}” names a time that does not exist`);
  if (!zone) return no(`“${text}” has no zone: add Z or an offset like +01:00`);
  if (year < years.least || year > years.most) {
    return no(`“${text}” lies outside the years ${years.least} to ${years.most}`);
  }
  const ms = fraction ? Math.floor(Number(`0.${fraction}`) * 1000 + 1e-6) : 0;
  const wall = Date.UTC(year, month - 1, day, Number(h), Number(mi), Number(s ?? 0), ms);
  const offset = offsetMinutes(zone);
  if (offset == null) return no(`“${text}” has no valid offset`);
  const at = wall - offset * 60_000;
  // In the last hours of the last year an offset leads beyond what can be written.
  return new Date(at).getUTCFullYear() > years.most
    ? no(`“${text}” lies outside the years ${years.least} to ${years.most}`)
    : ok(at);
}

function offsetMinutes(zone: string): number | null {
  if (zone === 'Z' || zone === 'z') return 0;
  const hours = Number(zone.slice(1, 3));
  const minutes = Number(zone.slice(3).replace(':', '') || 0);
  if (hours > 18 || minutes > 59) return null;
  return (zone.startsWith('-') ? -1 : 1) * (hours * 60 + minutes);
}

/** Writes an instant in UTC, without a fraction where it has none: `2026-09-28T18:30:00Z`. */
export function formatInstant(at: Instant): string {
  const iso = new Date(at).toISOString();
  return iso.endsWith('.000Z') ? `${iso.slice(0, -5)}Z` : iso;
}

/** A value as it may be repeated in an error: never a page of it. */
export function shorten(text: string, most = 40): string {
  return text.length > most ? `${text.slice(0, most)}…` : text;
}
