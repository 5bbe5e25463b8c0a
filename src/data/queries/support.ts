import { and, asc, desc, eq, gt, inArray, ne, or } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import * as yup from 'yup';
import type { Agreement } from '@/core/acts/agreement';
import { IN_THE_WAY, pausedUntil, type CheckIn } from '@/core/acts/checkIn';
import type { HelpingLine, OwnHelping } from '@/core/acts/helping';
import { DAY_MS, type Instant } from '@/core/units';
import type { Access } from '../database';
import { idsIn } from './idsIn';
import { agreements, checkIns, enrolments, helpings, persons, user } from '../schema';

/** What was agreed with a student, the latest first. */
export async function agreementsOf({ orm }: Access, enrolmentId: number): Promise<Agreement[]> {
  const rows = await orm
    .select({ row: agreements, by: user.name })
    .from(agreements)
    .innerJoin(user, eq(user.id, agreements.userId))
    .where(eq(agreements.enrolmentId, enrolmentId))
    .orderBy(desc(agreements.id));
  return rows.map(({ row: { id, goal, step, on, said, at, closedAs }, by }) => ({
    id,
    goal,
    step,
    on,
    said,
    with: by,
    at: at.getTime(),
    closedAs,
  }));
}

const ways = yup
  .array(
    yup
      .string()
      .oneOf([...IN_THE_WAY])
      .required(),
  )
  .required();

/** Days for which what a student said of how it goes stays in sight. */
const CHECK_IN_DAYS = 21;

/** What a student said last of how it goes; null if that is long ago. */
export async function checkInOf({ orm }: Access, enrolmentId: number, at: Instant): Promise<CheckIn | null> {
  const [row] = await orm
    .select()
    .from(checkIns)
    .where(and(eq(checkIns.enrolmentId, enrolmentId), gt(checkIns.at, new Date(at - CHECK_IN_DAYS * DAY_MS))))
    .orderBy(desc(checkIns.at), desc(checkIns.id))
    .limit(1);
  return row ? checkInFrom(row) : null;
}

function checkInFrom(row: typeof checkIns.$inferSelect): CheckIn {
  const inTheWay = ways.isValidSync(row.inTheWay, { strict: true }) ? row.inTheWay : [];
  return { id: row.id, how: row.how, inTheWay, word: row.word, at: row.at.getTime() };
}

/** Until when rules leave people alone, by person, for those who last said that something is in the way. */
export async function pausesOf({ orm }: Access, personIds: readonly number[]): Promise<Map<number, Instant>> {
  const rows = await orm
    .select({ person: enrolments.personId, checkIn: checkIns })
    .from(checkIns)
    .innerJoin(enrolments, eq(enrolments.id, checkIns.enrolmentId))
    .where(idsIn(enrolments.personId, personIds))
    .orderBy(asc(checkIns.at), asc(checkIns.id));
  const found = new Map<number, Instant>();
  for (const { person, checkIn } of rows) {
    const until = pausedUntil(checkInFrom(checkIn));
    // The last word counts: all may be well again.
    if (until == null) found.delete(person);
    else found.set(person, until);
  }
  return found;
}

const helper = alias(persons, 'helper');
const helperPlace = alias(enrolments, 'helper_place');

const namesOf = (orm: Access['orm']) =>
  orm
    .select({ row: helpings, helped: persons, helper, by: user.name })
    .from(helpings)
    .innerJoin(user, eq(user.id, helpings.userId))
    .innerJoin(enrolments, eq(enrolments.id, helpings.helpedId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .innerJoin(helperPlace, eq(helperPlace.id, helpings.helperId))
    .innerJoin(helper, eq(helper.id, helperPlace.personId));

const whole = (p: { readonly given: string; readonly family: string }) => `${p.given} ${p.family}`;

/** Who helps whom in a course, or with one student: what is closed last. */
export async function helpingsOf(
  { orm }: Access,
  userId: string,
  enrolmentId: number,
): Promise<HelpingLine[]> {
  const rows = await namesOf(orm)
    .where(or(eq(helpings.helpedId, enrolmentId), eq(helpings.helperId, enrolmentId)))
    .orderBy(desc(helpings.id));
  return rows.map(({ row, helped, helper: other }) => ({
    id: row.id,
    helper: { enrolmentId: row.helperId, name: whole(other) },
    helped: { enrolmentId: row.helpedId, name: whole(helped) },
    topic: row.topic,
    until: row.until,
    state: row.state,
    own: row.userId === userId,
  }));
}

/** The same for the student: what asks them, and what was agreed; who has not been asked yet sees nothing of it. */
export async function ownHelpings({ orm }: Access, enrolmentId: number): Promise<OwnHelping[]> {
  const rows = await namesOf(orm)
    .where(
      and(
        or(
          eq(helpings.helpedId, enrolmentId),
          and(eq(helpings.helperId, enrolmentId), ne(helpings.state, 'asked who is helped')),
        ),
        inArray(helpings.state, ['asked who is helped', 'asked the helper', 'agreed']),
      ),
    )
    .orderBy(desc(helpings.id));
  return rows.map(({ row, helped, helper: other, by }) => {
    const side = row.helperId === enrolmentId ? 'helper' : 'helped';
    return {
      id: row.id,
      side,
      // The helper learns whom they are asked to help; the helped who helps once that one agreed.
      other: side === 'helper' ? whole(helped) : row.state === 'agreed' ? whole(other) : null,
      topic: row.topic,
      until: row.until,
      state: row.state,
      asksMe: row.state === (side === 'helped' ? 'asked who is helped' : 'asked the helper'),
      by,
    };
  });
}
