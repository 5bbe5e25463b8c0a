import { no, ok, type Result } from '../result';
import type { LocalDate } from '../units';
import { PLAUSIBLE_YEARS, shorten } from './instant';

/** Reads a calendar day as `2026-09-28` (ISO 8601); days that do not exist, and years of no course, are refused. */
export function parseDate(text: string): Result<LocalDate> {
  const match = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text);
  const date = match ? new Date(`${text}T00:00:00Z`) : null;
  if (!date) return no(`“${shorten(text)}” is not a day like 2026-09-28`);
  if (Number.isNaN(date.getTime()) || !date.toISOString().startsWith(text))
    return no(`“${text}” names a day that does not exist`);
  const year = Number(match![1]);
  const { least, most } = PLAUSIBLE_YEARS;
  return year < least || year > most ? no(`“${text}” lies outside the years ${least} to ${most}`) : ok(text);
}
