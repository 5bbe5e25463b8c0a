import { localDate, minuteOfDay } from '../calendar/zone';
import type { SheetTable } from '../tables/sheet';
import type { Instant } from '../units';
import { writeCsv } from './csv';
import { formatInstant } from '../calendar/instant';

/** A table as CSV (RFC 4180); instants in UTC (ISO 8601), texts that look like formulas neutralised. */
export const sheetCsv = (table: SheetTable): string =>
  writeCsv(
    table.head,
    table.rows.map((row) =>
      row.map((cell) => (cell != null && typeof cell === 'object' ? formatInstant(cell.at) : cell)),
    ),
  );

/**
 * An instant as a spreadsheet holds it: a number of days with no zone, so the wall clock of the course's zone is
 * written as if it were UTC.
 */
export function wallDate(at: Instant, zone: string): Date {
  const day = Date.parse(`${localDate(at, zone)}T00:00:00Z`);
  return new Date(day + minuteOfDay(at, zone) * 60_000);
}
