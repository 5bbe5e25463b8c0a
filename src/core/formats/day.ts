import { no, ok, type Result } from '../result';
import type { LocalDate } from '../units';
import { shorten } from './instant';

/** Reads a calendar day as `2026-09-28` (ISO 8601); days that do not exist are refused. */
export function parseDate(text: string): Result<LocalDate> {
  const match = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text);
  const date = match ? new Date(`${text}T00:00:00Z`) : null;
  return date && !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text)
    ? ok(text)
    : no(`“${shorten(text)}” is not a day like 2026-09-28`);
}
