import { inSpan, type DaySpan } from '@/core/calendar/window';
import { daysBetween } from '@/core/calendar/zone';
import type { ActivityKind } from '@/core/course/kinds';
import type { LocalDate } from '@/core/units';
import type { DayRow } from '../snapshot/days';
import type { Snapshot } from '../snapshot/snapshot';
import type { WorkDays } from '../snapshot/workDays';
import { eachWorkDay } from './workFigures';

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

function sumDays(rows: readonly DayRow[], span: DaySpan): DayFigures {
  const sum = none();
  for (const row of rows) {
    if (!inSpan(span, row.date)) continue;
    sum.days++;
    sum.seconds += row.seconds;
    sum.inClassSeconds += row.inClassSeconds;
    sum.views += row.views;
    sum.contributions += row.contributions;
    sum.at10 += row.at10;
    sum.at30 += row.at30;
    sum.at60 += row.at60;
  }
  return sum;
}

/** Sums a student over a span of days; of one kind of activity where one is asked for (the limits are then not known). */
export async function figuresOf(
  snapshot: Snapshot,
  ids: readonly number[],
  span: DaySpan,
  kind: ActivityKind | null,
): Promise<Map<number, DayFigures>> {
  if (!kind) {
    const days = await snapshot.days();
    return new Map(ids.map((id) => [id, sumDays(days.get(id) ?? [], span)]));
  }
  const { activities } = await snapshot.model();
  const ofKind = new Set(activities.filter((a) => a.kind === kind).map((a) => a.id));
  const works = await snapshot.workDays();
  return new Map(ids.map((id) => [id, sumWorks(works.get(id), span, ofKind)]));
}

function sumWorks(own: WorkDays | undefined, span: DaySpan, activities: ReadonlySet<number>): DayFigures {
  const sum = none();
  const days = new Set<number>();
  eachWorkDay(own, span, (i) => {
    if (!activities.has(own!.activity[i]!)) return;
    days.add(own!.day[i]!);
    sum.seconds += own!.seconds[i]!;
    sum.inClassSeconds += own!.inClassSeconds[i]!;
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
