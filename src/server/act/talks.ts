import { randomUUID } from 'node:crypto';
import { and, eq, gt, isNull, sql } from 'drizzle-orm';
import { weekdayAndTime } from '@/core/format';
import { LEAD_MINUTES, seatsLeft, slotsOf } from '@/core/talks/times';
import { localDate } from '@/core/calendar/zone';
import { DAY_MS, MINUTE_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import {
  bookedFrom,
  talkById,
  lookUntil,
  STANDS,
  timesFor,
  type TalkRow,
  type TimesRow,
} from '@/data/queries/talks';
import { courses, enrolments, persons, talks, user } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound, tooMany } from '../base/errors';
import { isTaken } from '../base/failure';
import { wakeRunner } from '../jobs/queue';
import { requireCourse, requireStudent, type Viewer } from '../access/viewer';
import { tellOfTalk } from '../talks/talkLetters';

const GONE = 'Somebody has just taken this time. Choose another one.';

/**
 * Takes a slot for the viewer; a talk with the same instructor in this course that is still to come moves there. Whoever
 * comes first has it: those who take times of one instructor wait for each other.
 *
 * @returns the id of the talk
 */
export async function takeTalk(
  viewer: Viewer,
  { times, startsAt }: { readonly times: number; readonly startsAt: Instant },
): Promise<number> {
  const personId = requireStudent(viewer);
  const db = await database();
  const at = now();
  const place = await placeWith(db, personId, times, at);
  if (!place) throw notFound('time for you');
  const { course, enrolment, times: row } = place;
  if (startsAt < at + LEAD_MINUTES * MINUTE_MS)
    throw invalid('This time is too close, or gone by. Choose a later one.');
  const until = lookUntil(at);
  const slot = slotsOf(row, termOf(course), localDate(at, course.zone), localDate(until, course.zone)).find(
    (s) => s.startsAt === startsAt,
  );
  if (!slot) throw invalid('This time is not offered any more. Choose another one.');
  try {
    const id = await db.transaction(async (tx) => {
      // One after the other: first whose talks these are, then whose day it is.
      await tx.orm.select({ id: user.id }).from(user).where(eq(user.id, row.userId)).for('update');
      await tx.orm.select({ id: persons.id }).from(persons).where(eq(persons.id, personId)).for('update');
      const all = await bookedFrom(tx, at, eq(talks.userId, row.userId));
      const before = all.find((t) => t.enrolmentId === enrolment.id && t.startsAt.getTime() > at);
      if (before && before.startsAt.getTime() === slot.startsAt) return before.id;
      await refuseTooMany(tx, personId, at);
      const others = all.filter((t) => t !== before);
      const span = (t: TalkRow) => ({ startsAt: t.startsAt.getTime(), endsAt: t.endsAt.getTime() });
      if (seatsLeft(slot, row.seats, others.map(span)) === 0) throw invalid(GONE);
      await refuseTwoAtOnce(tx, personId, slot, before, course.zone);
      const taken = new Set(others.filter((t) => t.startsAt.getTime() === slot.startsAt).map((t) => t.seat));
      const seat = Array.from({ length: row.seats }, (_, i) => i + 1).find((n) => !taken.has(n));
      if (seat == null) throw invalid(GONE);
      const where = {
        timesId: row.id,
        startsAt: new Date(slot.startsAt),
        endsAt: new Date(slot.endsAt),
        place: row.place,
        seat,
        changedAt: nowDate(),
      };
      const [talk] = before
        ? await tx.orm
            .update(talks)
            .set({ ...where, sequence: sql`${talks.sequence} + 1` })
            .where(eq(talks.id, before.id))
            .returning()
        : await tx.orm
            .insert(talks)
            .values({
              ...where,
              courseId: course.id,
              enrolmentId: enrolment.id,
              userId: row.userId,
              uid: `talk-${randomUUID()}@ready-lantern.example`,
              createdAt: nowDate(),
            })
            .returning();
      await tellOfTalk(tx, course, talk!, before ? 'moved' : 'booked');
      return talk!.id;
    });
    wakeRunner();
    return id;
  } catch (error) {
    // Two on two servers at the same moment: the database lets one of them through.
    if (isTaken(error)) throw invalid(GONE);
    throw error;
  }
}

/** The place of a person in the course of some times, if they may take them. */
async function placeWith(
  db: Access,
  personId: number,
  timesId: number,
  at: Instant,
): Promise<{
  readonly course: CourseRow;
  readonly enrolment: typeof enrolments.$inferSelect;
  readonly times: TimesRow;
} | null> {
  const places = await db.orm
    .select({ enrolment: enrolments, course: courses })
    .from(enrolments)
    .innerJoin(courses, eq(courses.id, enrolments.courseId))
    .where(
      and(eq(enrolments.personId, personId), eq(enrolments.status, 'active'), isNull(courses.archivedAt)),
    );
  for (const { enrolment, course } of places) {
    const found = (await timesFor(db, enrolment, at)).find((t) => t.times.id === timesId);
    if (found) return { enrolment, course, times: found.times };
  }
  return null;
}

/** Changes that a student can make to their talks in a day: both sides get word of each. */
const MOST_A_DAY = 30;

async function refuseTooMany(tx: Access, personId: number, at: Instant): Promise<void> {
  const [made] = await tx.orm
    .select({ n: sql<number>`coalesce(sum(${talks.sequence} + 1), 0)`.mapWith(Number) })
    .from(talks)
    .innerJoin(enrolments, eq(enrolments.id, talks.enrolmentId))
    .where(and(eq(enrolments.personId, personId), gt(talks.changedAt, new Date(at - DAY_MS))));
  if ((made?.n ?? 0) >= MOST_A_DAY)
    throw tooMany('That is a lot of changes for one day; write to your instructor instead.');
}

/** A student cannot be in two talks at once, in whatever courses. */
async function refuseTwoAtOnce(
  tx: Access,
  personId: number,
  slot: { readonly startsAt: Instant; readonly endsAt: Instant },
  but: TalkRow | undefined,
  zone: string,
): Promise<void> {
  const own = await tx.orm
    .select({ talk: talks })
    .from(talks)
    .innerJoin(enrolments, eq(enrolments.id, talks.enrolmentId))
    .where(and(eq(enrolments.personId, personId), STANDS, gt(talks.endsAt, new Date(slot.startsAt))));
  const clash = own.find(({ talk }) => talk.id !== but?.id && talk.startsAt.getTime() < slot.endsAt);
  if (clash)
    throw invalid(`You have another talk then, ${weekdayAndTime(clash.talk.startsAt.getTime(), zone)}.`);
}

/** Cancels a talk that is to come: the student theirs, an instructor their own. Both are told. */
export async function cancelTalk(
  viewer: Viewer,
  { talk: id, why }: { readonly talk: number; readonly why: string },
): Promise<void> {
  const db = await database();
  const found = await talkById(db, id);
  const isStudent = viewer.role === 'student';
  const mine = isStudent ? found?.personId === viewer.personId : found?.talk.userId === viewer.userId;
  if (!found || !mine) throw notFound('talk of yours');
  const { course } = found;
  if (!isStudent) await requireCourse(viewer, 'act', course.code);
  await db.transaction(async (tx) => {
    const [talk] = await tx.orm.select().from(talks).where(eq(talks.id, id)).for('update');
    if (!talk || talk.cancelledAt != null) return;
    if (talk.startsAt.getTime() <= now())
      throw invalid('This talk has begun; it cannot be cancelled any more.');
    const [gone] = await tx.orm
      .update(talks)
      .set({
        cancelledAt: nowDate(),
        changedAt: nowDate(),
        cancelledBy: isStudent ? 'student' : 'staff',
        why: why.trim() || null,
        sequence: sql`${talks.sequence} + 1`,
      })
      .where(eq(talks.id, id))
      .returning();
    await tellOfTalk(tx, course, gone!, 'cancelled');
  });
  wakeRunner();
}
