import type { DaySpan } from '@/core/calendar/window';
import type { LocalDate } from '@/core/units';
import type { WorkDays } from '../snapshot/workDays';

/** Days since 1970-01-01, as the packed days count. */
export const dayNumber = (date: LocalDate): number => Date.parse(`${date}T00:00:00Z`) / 86_400_000;

/** Calls for each row of a student's that falls in a span of days. */
export function eachWorkDay(own: WorkDays | undefined, span: DaySpan, take: (row: number) => void): void {
  if (!own) return;
  const from = dayNumber(span.from);
  const to = dayNumber(span.to);
  for (let i = 0; i < own.count; i++) if (own.day[i]! >= from && own.day[i]! <= to) take(i);
}
