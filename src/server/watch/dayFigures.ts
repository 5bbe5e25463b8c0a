import { and, eq, gte, lte, sql } from 'drizzle-orm';
import { inSpan, type DaySpan } from '@/core/calendar/window';
import { daysBetween } from '@/core/calendar/zone';
import type { ActivityKind } from '@/core/formats/courseFiles';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { activities, activityDays } from '@/data/schema';
import { idsIn } from '../derive/idsIn';
import type { DayRow, Snapshot } from '../derive/snapshot';

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
    if (!inSpan(span, row.day)) continue;
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
  { orm }: Access,
  snapshot: Snapshot,
  ids: readonly number[],
  span: DaySpan,
  kind: ActivityKind | null,
): Promise<Map<number, DayFigures>> {
  if (!kind) {
    const days = await snapshot.days();
    return new Map(ids.map((id) => [id, sumDays(days.get(id) ?? [], span)]));
  }
  const n = (text: ReturnType<typeof sql>) => sql<number>`${text}`.mapWith(Number);
  const rows = await orm
    .select({
      id: activityDays.enrolmentId,
      days: n(sql`count(distinct ${activityDays.day})`),
      seconds: n(sql`sum(${activityDays.seconds})`),
      inClassSeconds: n(sql`sum(${activityDays.inClassSeconds})`),
      views: n(sql`sum(${activityDays.views})`),
      contributions: n(sql`sum(${activityDays.contributions})`),
    })
    .from(activityDays)
    .innerJoin(activities, eq(activities.id, activityDays.activityId))
    .where(
      and(
        idsIn(activityDays.enrolmentId, ids),
        eq(activities.kind, kind),
        gte(activityDays.day, span.from),
        lte(activityDays.day, span.to),
      ),
    )
    .groupBy(activityDays.enrolmentId);
  return new Map(rows.map(({ id, ...sums }) => [id, { ...none(), ...sums }]));
}

export interface WeekFigures {
  minutes: number;
  inClass: number;
  days: number;
}

/** Weeks of the term from the first, so many of them, of one student. */
export function weeksOf(rows: readonly DayRow[], termStart: LocalDate, weeks: number): WeekFigures[] {
  const list = Array.from({ length: Math.max(0, weeks) }, (): WeekFigures => ({
    minutes: 0,
    inClass: 0,
    days: 0,
  }));
  for (const row of rows) {
    const week = list[Math.floor(daysBetween(termStart, row.day) / 7)];
    if (!week) continue;
    week.minutes += row.seconds / 60;
    week.inClass += row.inClassSeconds / 60;
    week.days++;
  }
  return list;
}
