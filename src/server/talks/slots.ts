import { and, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import { LEAD_MINUTES, seatsLeft, slotsOf } from '@/core/talks/times';
import { MINUTE_MS, type Instant } from '@/core/units';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import { bookedFrom, lookUntil, type TalkRow, type TimesRow } from '@/data/queries/talks';
import { talks, talkTimes } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import type { Viewer } from '../access/viewer';

export const span = (t: TalkRow) => ({ startsAt: t.startsAt.getTime(), endsAt: t.endsAt.getTime() });

/** The slots of some times that can still be taken, with the seats that are left. */
export function freeSlots(times: TimesRow, course: CourseRow, booked: readonly TalkRow[], at: Instant) {
  const [from, to] = [at, lookUntil(at)].map((t) => localDate(t, course.zone)) as [string, string];
  return slotsOf(times, termOf(course), from, to).flatMap((slot) => {
    if (slot.startsAt < at + LEAD_MINUTES * MINUTE_MS) return [];
    const seats = seatsLeft(slot, times.seats, booked.map(span));
    return seats > 0 ? [{ ...slot, seats }] : [];
  });
}

/** How many free times the viewer could offer in a message now, and when the first is. */
export async function offerable(
  viewer: Viewer,
  course: CourseRow,
): Promise<{ free: number; next: Instant | null }> {
  const db = await database();
  const at = now();
  const rows = await db.orm
    .select()
    .from(talkTimes)
    .where(and(eq(talkTimes.courseId, course.id), eq(talkTimes.userId, viewer.userId)));
  if (rows.length === 0) return { free: 0, next: null };
  const booked = await bookedFrom(db, at, eq(talks.userId, viewer.userId));
  const starts = rows.flatMap((row) => freeSlots(row, course, booked, at).map((s) => s.startsAt));
  return { free: starts.length, next: starts.length > 0 ? Math.min(...starts) : null };
}
