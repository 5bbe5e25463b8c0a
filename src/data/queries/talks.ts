import { and, asc, desc, eq, gt, isNull, or, sql, type SQL } from 'drizzle-orm';
import { AHEAD_DAYS } from '@/core/talks/times';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '../database';
import { courses, courseStaff, enrolments, messages, recipients, talks, talkTimes, user } from '../schema';
import { HAS_GONE } from './hasGone';

export type TimesRow = typeof talkTimes.$inferSelect;
export type TalkRow = typeof talks.$inferSelect;

/** A talk that stands. */
export const STANDS = isNull(talks.cancelledAt);

/** The talks of instructors that stand and are not over, in whatever course. */
export async function bookedFrom({ orm }: Access, at: Instant, which: SQL | undefined): Promise<TalkRow[]> {
  return orm
    .select()
    .from(talks)
    .where(and(STANDS, gt(talks.endsAt, new Date(at)), which))
    .orderBy(asc(talks.startsAt), asc(talks.id));
}

/** Days for which the offer of a talk in a message holds. */
const OFFER_DAYS = 30;

/**
 * The times that a student of a course can take: those open to everybody, and those of instructors who offered them a talk
 * in a message not long ago; only of who teaches the course.
 */
export async function timesFor(
  { orm }: Access,
  { id, courseId }: Pick<typeof enrolments.$inferSelect, 'id' | 'courseId'>,
  at: Instant,
): Promise<{ readonly times: TimesRow; readonly by: string; readonly email: string }[]> {
  const offered = orm
    .select({ one: sql`1` })
    .from(messages)
    .innerJoin(recipients, eq(recipients.messageId, messages.id))
    .where(
      and(
        eq(messages.userId, talkTimes.userId),
        eq(messages.courseId, talkTimes.courseId),
        eq(messages.offersTalk, true),
        eq(recipients.enrolmentId, id),
        gt(messages.createdAt, new Date(at - OFFER_DAYS * DAY_MS)),
        HAS_GONE,
      ),
    );
  return orm
    .select({ times: talkTimes, by: user.name, email: user.email })
    .from(talkTimes)
    .innerJoin(user, eq(user.id, talkTimes.userId))
    .innerJoin(
      courseStaff,
      and(eq(courseStaff.courseId, talkTimes.courseId), eq(courseStaff.userId, talkTimes.userId)),
    )
    .where(
      and(
        eq(talkTimes.courseId, courseId),
        or(isNull(courseStaff.until), gt(courseStaff.until, new Date(at))),
        or(eq(talkTimes.open, true), sql`exists ${offered}`),
      ),
    )
    .orderBy(asc(user.name), asc(talkTimes.id));
}

/** The talks of a student in a course that stand, the latest first. */
export async function talksOf({ orm }: Access, enrolmentId: number) {
  return orm
    .select({ talk: talks, by: user.name, email: user.email })
    .from(talks)
    .innerJoin(user, eq(user.id, talks.userId))
    .where(and(eq(talks.enrolmentId, enrolmentId), STANDS))
    .orderBy(desc(talks.startsAt));
}

/** A talk with its course and whose it is on the student's side; undefined if there is none. */
export async function talkById({ orm }: Access, id: number) {
  const [found] = await orm
    .select({ talk: talks, course: courses, personId: enrolments.personId })
    .from(talks)
    .innerJoin(courses, eq(courses.id, talks.courseId))
    .innerJoin(enrolments, eq(enrolments.id, talks.enrolmentId))
    .where(eq(talks.id, id));
  return found;
}

/** Until when slots are looked for. */
export const lookUntil = (at: Instant): Instant => at + AHEAD_DAYS * DAY_MS;
