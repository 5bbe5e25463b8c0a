import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { weekSpan } from '@/core/calendar/term';
import { localDate } from '@/core/calendar/zone';
import { groupBy } from '@/core/groupBy';
import { daysOfTimes } from '@/core/talks/times';
import { DAY_MS, type Instant } from '@/core/units';
import type { OwnTalk, TalkLine, TalkOffer, TalksView, TimesLine } from '@/core/views/talks';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import {
  bookedFrom,
  talkById,
  lookUntil,
  STANDS,
  talksOf,
  timesFor,
  type TimesRow,
} from '@/data/queries/talks';
import { type enrolments, notes, talks, talkTimes, user } from '@/data/schema';
import { freeSlots, span } from '../talks/slots';
import { calendarOf, partiesOf } from '../talks/talkLetters';
import { now } from '../base/clock';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';
import { roster } from '../snapshot/roster';

/** Days for which talks that are over stay in sight. */
const PAST_DAYS = 28;

/** The talks of a course: those to come and those that are over, and the times that the viewer gave. */
export async function talksView(viewer: Viewer, code: string): Promise<TalksView> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const at = now();
  const rows = await orm
    .select({ talk: talks, by: user.name })
    .from(talks)
    .innerJoin(user, eq(user.id, talks.userId))
    .where(and(eq(talks.courseId, course.id), STANDS))
    .orderBy(talks.startsAt, talks.id);
  const near = rows.filter(({ talk }) => talk.endsAt.getTime() > at - PAST_DAYS * DAY_MS);
  const people = new Map(
    (await roster(course.id, [...new Set(near.map((r) => r.talk.enrolmentId))])).map((p) => [
      p.enrolmentId,
      p,
    ]),
  );
  const noted = await notedTalks(near.map((r) => r.talk.id));
  const lines = near.flatMap(({ talk, by }): TalkLine[] => {
    const person = people.get(talk.enrolmentId);
    if (!person) return [];
    return [
      {
        id: talk.id,
        enrolmentId: talk.enrolmentId,
        name: person.name,
        section: person.section,
        with: by,
        own: talk.userId === viewer.userId,
        ...span(talk),
        place: talk.place,
        noted: noted.has(talk.id),
      },
    ];
  });
  const term = termOf(course);
  return {
    today: localDate(at, course.zone),
    termEnd: weekSpan(term, term.weeks).last,
    coming: lines.filter((t) => t.endsAt > at),
    past: lines.filter((t) => t.endsAt <= at).reverse(),
    times: await timesLines(viewer, course, at),
  };
}

async function notedTalks(ids: readonly number[]): Promise<ReadonlySet<number>> {
  if (ids.length === 0) return new Set();
  const { orm } = await database();
  const rows = await orm
    .selectDistinct({ id: notes.talkId })
    .from(notes)
    .where(and(isNotNull(notes.talkId), inArray(notes.talkId, [...ids])));
  return new Set(rows.map((r) => r.id!));
}

async function timesLines(viewer: Viewer, course: CourseRow, at: Instant): Promise<TimesLine[]> {
  const db = await database();
  const rows = await db.orm
    .select()
    .from(talkTimes)
    .where(and(eq(talkTimes.courseId, course.id), eq(talkTimes.userId, viewer.userId)))
    .orderBy(talkTimes.firstOn, talkTimes.from, talkTimes.id);
  const booked = await bookedFrom(db, at, eq(talks.userId, viewer.userId));
  const term = termOf(course);
  const today = localDate(at, course.zone);
  return rows.map((row) => ({
    id: row.id,
    form: formOf(row),
    free: freeSlots(row, course, booked, at).length,
    booked: booked.filter((t) => t.timesId === row.id).length,
    days: daysOfTimes(row, term, today, localDate(lookUntil(at), course.zone)),
    except: row.except.filter((day) => day >= today),
  }));
}

const formOf = ({
  id,
  repeat,
  firstOn,
  lastOn,
  from,
  until,
  minutes,
  place,
  seats,
  open,
  except,
}: TimesRow) => ({
  id,
  repeat,
  firstOn,
  lastOn,
  from,
  until,
  minutes,
  place,
  seats,
  open,
  except,
});

/** The talks of a student in a course that are to come or go on, the next first. */
export async function comingTalks(enrolmentId: number): Promise<OwnTalk[]> {
  const at = now();
  return (await talksOf(await database(), enrolmentId))
    .filter(({ talk }) => talk.endsAt.getTime() > at)
    .reverse()
    .map(({ talk, by }) => ({
      id: talk.id,
      with: by,
      userId: talk.userId,
      ...span(talk),
      place: talk.place,
    }));
}

/** The talks that a student has in a course and those that are to come, and what they could take. */
export async function ownTalks(
  course: CourseRow,
  enrolment: typeof enrolments.$inferSelect,
): Promise<{ readonly talks: OwnTalk[]; readonly offers: TalkOffer[] }> {
  const db = await database();
  const at = now();
  const mine = await comingTalks(enrolment.id);
  const times =
    enrolment.status === 'active' && course.archivedAt == null ? await timesFor(db, enrolment, at) : [];
  if (times.length === 0) return { talks: mine, offers: [] };
  const whose = [...new Set(times.map((t) => t.times.userId))];
  const booked = groupBy(await bookedFrom(db, at, inArray(talks.userId, whose)), (t) => t.userId);
  const offers = [...groupBy(times, (t) => t.times.userId)].map(([userId, given]) => ({
    userId,
    with: given[0]!.by,
    slots: given
      .flatMap(({ times: row }) =>
        freeSlots(row, course, booked.get(userId) ?? [], at).map((slot) => ({
          ...slot,
          times: row.id,
          place: row.place,
        })),
      )
      .sort((a, b) => a.startsAt - b.startsAt),
  }));
  return { talks: mine, offers };
}

/** The calendar file of a talk, for the student or for who teaches the course. */
export async function talkFile(viewer: Viewer, talkId: number): Promise<{ name: string; text: string }> {
  const db = await database();
  const found = await talkById(db, talkId);
  if (!found) throw notFound('talk of yours');
  const { talk, course, personId } = found;
  const isStudent = viewer.role === 'student';
  if (isStudent ? personId !== viewer.personId : talk.userId !== viewer.userId)
    throw notFound('talk of yours');
  const { text } = calendarOf(course, talk, await partiesOf(db, talk), isStudent ? 'student' : 'staff');
  return { name: `${course.code}-talk-${talk.id}.ics`, text };
}
