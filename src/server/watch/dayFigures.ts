import { and, eq, gte, inArray, lte, sql } from 'drizzle-orm';
import type { DaySpan } from '@/core/calendar/window';
import type { ActivityKind } from '@/core/formats/courseFiles';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { activities, activityDays, dayTotals } from '@/data/schema';

/** Sums of one student over some days. */
export interface DayFigures {
  readonly id: number;
  readonly days: number;
  readonly seconds: number;
  readonly inClassSeconds: number;
  readonly views: number;
  readonly contributions: number;
  readonly at10: number;
  readonly at30: number;
  readonly at60: number;
}

const n = (text: ReturnType<typeof sql>) => sql<number>`${text}`.mapWith(Number);

/** Sums a student over a span of days; of one kind of activity where one is asked for (the limits are then not known). */
export async function figuresOf(
  { orm }: Access,
  ids: readonly number[],
  span: DaySpan,
  kind: ActivityKind | null,
): Promise<Map<number, DayFigures>> {
  if (ids.length === 0) return new Map();
  const rows = kind
    ? await orm
        .select({
          id: activityDays.enrolmentId,
          days: n(sql`count(distinct ${activityDays.day})`),
          seconds: n(sql`sum(${activityDays.seconds})`),
          inClassSeconds: n(sql`sum(${activityDays.inClassSeconds})`),
          views: n(sql`sum(${activityDays.views})`),
          contributions: n(sql`sum(${activityDays.contributions})`),
          at10: n(sql`0`),
          at30: n(sql`0`),
          at60: n(sql`0`),
        })
        .from(activityDays)
        .innerJoin(activities, eq(activities.id, activityDays.activityId))
        .where(
          and(
            inArray(activityDays.enrolmentId, [...ids]),
            eq(activities.kind, kind),
            gte(activityDays.day, span.from),
            lte(activityDays.day, span.to),
          ),
        )
        .groupBy(activityDays.enrolmentId)
    : await orm
        .select({
          id: dayTotals.enrolmentId,
          days: n(sql`count(*)`),
          seconds: n(sql`sum(${dayTotals.seconds})`),
          inClassSeconds: n(sql`sum(${dayTotals.inClassSeconds})`),
          views: n(sql`sum(${dayTotals.views})`),
          contributions: n(sql`sum(${dayTotals.contributions})`),
          at10: n(sql`sum(${dayTotals.secondsAt10})`),
          at30: n(sql`sum(${dayTotals.secondsAt30})`),
          at60: n(sql`sum(${dayTotals.secondsAt60})`),
        })
        .from(dayTotals)
        .where(
          and(
            inArray(dayTotals.enrolmentId, [...ids]),
            gte(dayTotals.day, span.from),
            lte(dayTotals.day, span.to),
          ),
        )
        .groupBy(dayTotals.enrolmentId);
  return new Map(rows.map((r) => [r.id, r]));
}

export interface WeekFigures {
  readonly minutes: number;
  readonly inClass: number;
  readonly days: number;
}

/** Weeks of the term from the first, so many of them, by student. */
export async function weeksOf(
  { orm }: Access,
  ids: readonly number[],
  termStart: LocalDate,
  weeks: number,
): Promise<Map<number, WeekFigures[]>> {
  const found = new Map<number, WeekFigures[]>();
  if (ids.length === 0 || weeks < 1) return found;
  const week = sql<number>`((${dayTotals.day} - ${termStart}::date) / 7)`;
  const rows = await orm
    .select({
      id: dayTotals.enrolmentId,
      week: week.mapWith(Number),
      seconds: n(sql`sum(${dayTotals.seconds})`),
      inClass: n(sql`sum(${dayTotals.inClassSeconds})`),
      days: n(sql`count(*)`),
    })
    .from(dayTotals)
    .where(and(inArray(dayTotals.enrolmentId, [...ids]), gte(dayTotals.day, termStart)))
    .groupBy(dayTotals.enrolmentId, sql`2`);
  for (const id of ids)
    found.set(
      id,
      Array.from({ length: weeks }, () => ({ minutes: 0, inClass: 0, days: 0 })),
    );
  for (const r of rows) {
    if (r.week >= weeks) continue;
    found.get(r.id)![r.week] = { minutes: r.seconds / 60, inClass: r.inClass / 60, days: r.days };
  }
  return found;
}
