import { randomUUID } from 'node:crypto';
import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { weekSpan } from '@/core/calendar/term';
import { addDays, instantOf, localDate, weekday } from '@/core/calendar/zone';
import type { Term } from '@/core/calendar/term';
import { daysOfTimes, slotsOf } from '@/core/talks/times';
import { DAY_MS, HOUR_MS, type Instant, type LocalDate } from '@/core/units';
import type { Database } from '@/data/database';
import { acts, agreements, checkIns, enrolments, notes, persons, talks, talkTimes } from '@/data/schema';

/** The day of a weekday in the week of another day. */
const inWeekOf = (day: LocalDate, on: number): LocalDate => addDays(day, on - weekday(day));

/**
 * What the demo's instructor has done by hand so far: times when they can be seen with two talks booked, a talk that is
 * over with what was agreed, due today, and a call to look at again; and what a student said of how it goes.
 */
export async function seedActs(
  db: Database,
  { courseId, userId, term, now }: { courseId: number; userId: string; term: Term; now: Instant },
): Promise<void> {
  const { zone } = term;
  const today = localDate(now, zone);
  const people = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(and(eq(enrolments.courseId, courseId), eq(enrolments.status, 'active'), isNotNull(persons.email)))
    .orderBy(asc(persons.externalId));
  // Fewer students than the demo has are for tests, which make what they need.
  const [one, two, three, four, five] = [12, 17, 23, 31, 38].map((i) => people[i]?.id);
  if (!one || !two || !three || !four || !five) return;
  const at = new Date(now);
  const times = {
    courseId,
    userId,
    repeat: 'weekly' as const,
    firstOn: inWeekOf(term.start, 2),
    lastOn: weekSpan(term, term.weeks).last,
    from: 14 * 60,
    until: 15 * 60,
    minutes: 20,
    place: 'Chart room, desk by the window',
    seats: 1,
    except: [],
    open: false,
    at,
  };
  const evening = {
    ...times,
    firstOn: inWeekOf(term.start, 4),
    from: 18 * 60,
    until: 18 * 60 + 40,
    place: 'By phone, extension 214',
  };
  const [given] = await db.orm.insert(talkTimes).values([times, evening]).returning();
  const until = addDays(today, 14);
  const slots = slotsOf(given!, term, addDays(today, 1), until);
  const before = daysOfTimes(given!, term, term.start, addDays(today, -1)).at(-1);
  const book = (enrolmentId: number, startsAt: Instant) => ({
    courseId,
    enrolmentId,
    userId,
    timesId: given!.id,
    uid: `talk-${randomUUID()}@ready-lantern.example`,
    startsAt: new Date(startsAt),
    endsAt: new Date(startsAt + times.minutes * 60_000),
    place: times.place,
    seat: 1,
    changedAt: at,
    createdAt: new Date(startsAt - 5 * DAY_MS),
  });
  const wanted = [
    ...slots.slice(1, 3).map((s, i) => book([one, two][i]!, s.startsAt)),
    ...(before ? [book(three, instantOf(before, times.from, zone))] : []),
  ];
  if (wanted.length > 0) await db.orm.insert(talks).values(wanted);

  const week = addDays(today, -7);
  const spoke = new Date(instantOf(week, 15 * 60, zone));
  const [talked, called] = await db.orm
    .insert(notes)
    .values([
      {
        courseId,
        enrolmentId: four,
        userId,
        kind: 'talk',
        on: week,
        text: 'Finds the tide tables slow to read; works through them with pencil first.',
        at: spoke,
      },
      {
        courseId,
        enrolmentId: five,
        userId,
        kind: 'call',
        on: week,
        text: 'Shift work until the end of the week; will hand in after that.',
        at: spoke,
      },
    ])
    .returning();
  await db.orm.insert(agreements).values({
    courseId,
    enrolmentId: four,
    userId,
    noteId: talked!.id,
    goal: 'Read a tide table in five minutes',
    step: 'The two practice pages on heights, with pencil',
    on: today,
    said: 'I can do one on Thursday and one on Sunday',
    at: spoke,
  });
  const act = (note: typeof talked) => ({
    courseId,
    enrolmentId: note!.enrolmentId,
    userId,
    kind: note!.kind,
    on: week,
    followUpOn: today,
    answers: [],
    noteId: note!.id,
    at: spoke,
  });
  await db.orm.insert(acts).values([act(talked), act(called)]);
  await db.orm.insert(checkIns).values({
    courseId,
    enrolmentId: five,
    how: 'so so',
    inTheWay: ['time'],
    word: 'Extra shifts this month',
    at: new Date(now - 20 * HOUR_MS),
  });
}
