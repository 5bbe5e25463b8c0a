import { inSpan, type DaySpan } from '../calendar/window';
import { daysBetween } from '../calendar/zone';
import type { DayRecord } from '../course/record';
import type { LocalDate } from '../units';
import { dayNumber, eachWorkDay, type WorkDays } from './workDays';

/** A day of a student with everything that is summed of it. */
export interface DayRow extends DayRecord {
  readonly views: number;
  readonly contributions: number;
  /** Seconds of the day at session limits of 10, 30 and 60 minutes. */
  readonly at10: number;
  readonly at30: number;
  readonly at60: number;
}

/** Sums of one student over some days. */
export interface DayFigures {
  days: number;
  seconds: number;
  inClassSeconds: number;
  views: number;
  contributions: number;
  at10: number;
  at30: number;
  at60: number;
}

const none = (): DayFigures => ({
  days: 0,
  seconds: 0,
  inClassSeconds: 0,
  views: 0,
  contributions: 0,
  at10: 0,
  at30: 0,
  at60: 0,
});

/**
 * Sums the days of a student that fall in a span.
 *
 * @param partOfLast share of the time of the last day that counts, where the span ends within it
 */
export function sumDays(rows: readonly DayRow[], span: DaySpan, partOfLast = 1): DayFigures {
  const sum = none();
  for (const row of rows) {
    if (!inSpan(span, row.date)) continue;
    const part = row.date === span.to ? partOfLast : 1;
    sum.days++;
    sum.seconds += row.seconds * part;
    sum.inClassSeconds += row.inClassSeconds * part;
    sum.views += row.views;
    sum.contributions += row.contributions;
    sum.at10 += row.at10;
    sum.at30 += row.at30;
    sum.at60 += row.at60;
  }
  return sum;
}

/** Sums the days of a student that fall in a span, for some activities only; the limits are then not known. */
export function sumWorks(
  own: WorkDays | undefined,
  span: DaySpan,
  activities: ReadonlySet<number>,
  partOfLast = 1,
): DayFigures {
  const sum = none();
  const days = new Set<number>();
  const last = dayNumber(span.to);
  eachWorkDay(own, span, (i) => {
    if (!activities.has(own!.activity[i]!)) return;
    const part = own!.day[i] === last ? partOfLast : 1;
    days.add(own!.day[i]!);
    sum.seconds += own!.seconds[i]! * part;
    sum.inClassSeconds += own!.inClassSeconds[i]! * part;
    sum.views += own!.views[i]!;
    sum.contributions += own!.contributions[i]!;
  });
  return { ...sum, days: days.size };
}

export interface WeekFigures {
  minutes: number;
  inClass: number;
  days: number;
}

/** Place of the term week of a day, from 0; each day is counted once, however many students have it. */
export function weekFinder(termStart: LocalDate): (date: LocalDate) => number {
  const known = new Map<LocalDate, number>();
  return (date) => {
    let week = known.get(date);
    if (week === undefined) known.set(date, (week = Math.floor(daysBetween(termStart, date) / 7)));
    return week;
  };
}

/** Weeks of the term from the first, so many of them, of one student. */
export function weeksOf(
  rows: readonly DayRow[],
  weekIn: (date: LocalDate) => number,
  weeks: number,
): WeekFigures[] {
  const list = Array.from({ length: Math.max(0, weeks) }, (): WeekFigures => ({
    minutes: 0,
    inClass: 0,
    days: 0,
  }));
  for (const row of rows) {
    const week = list[weekIn(row.date)];
    if (!week) continue;
    week.minutes += row.seconds / 60;
    week.inClass += row.inClassSeconds / 60;
    week.days++;
  }
  return list;
}
