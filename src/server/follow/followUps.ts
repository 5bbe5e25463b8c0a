import { and, asc, eq, lte, sql } from 'drizzle-orm';
import { localDate, startOfDay } from '@/core/calendar/zone';
import type { FollowUpLine } from '@/core/views/followUp';
import { OPEN_FOLLOW_UP } from '@/data/queries/openFollowUp';
import type { CourseRow } from '@/data/queries/courseModel';
import { acts, agreements, enrolments, notes, persons, user } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { fullName } from '../snapshot/roster';
import type { Snapshot } from '../snapshot/snapshot';
import { happenedSince } from './happenedSince';
import { repliesOf } from '@/data/queries/replies';

const dueOn = (courseId: number, today: string) =>
  and(
    eq(acts.courseId, courseId),
    OPEN_FOLLOW_UP,
    lte(acts.followUpOn, today),
    eq(enrolments.status, 'active'),
  );

/** How many follow-ups of a course are due, for the rail and the weekly reminder. */
export async function dueCount(course: CourseRow): Promise<number> {
  const { orm } = await database();
  const rows = await orm
    .select({ id: acts.id })
    .from(acts)
    .innerJoin(enrolments, eq(enrolments.id, acts.enrolmentId))
    .where(dueOn(course.id, localDate(now(), course.zone)));
  return rows.length;
}

/** The follow-ups of some students that are due, with whether an answer came to what was written. */
export async function dueActs(
  course: CourseRow,
  shown: ReadonlySet<number>,
): Promise<
  { readonly actId: number; readonly id: number; readonly name: string; readonly answered: boolean }[]
> {
  const { orm } = await database();
  const rows = await orm
    .select({
      actId: acts.id,
      id: acts.enrolmentId,
      given: persons.given,
      family: persons.family,
      answered: sql<boolean>`exists (select 1 from replies r
        where r.recipient_id = ${acts.recipientId} and not r.automatic)`,
    })
    .from(acts)
    .innerJoin(enrolments, eq(enrolments.id, acts.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(dueOn(course.id, localDate(now(), course.zone)))
    .orderBy(asc(acts.followUpOn), asc(acts.id));
  return rows
    .filter((r) => shown.has(r.id))
    .map(({ actId, id, answered, ...person }) => ({ actId, id, answered, name: fullName(person) }));
}

/**
 * The follow-ups of a course that are due, the oldest first, each with what has happened since the act.
 *
 * @param shown whose; `most` of them are looked into, and the others counted
 */
export async function dueFollowUps(
  snapshot: Snapshot,
  userId: string,
  shown: ReadonlySet<number>,
  most: number,
): Promise<{ readonly lines: FollowUpLine[]; readonly more: number }> {
  const { row: course } = await snapshot.model();
  const db = await database();
  const all = await db.orm
    .select({ act: acts, by: user.name, person: persons, note: notes, agreed: agreements })
    .from(acts)
    .innerJoin(user, eq(user.id, acts.userId))
    .innerJoin(enrolments, eq(enrolments.id, acts.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .leftJoin(notes, eq(notes.id, acts.noteId))
    .leftJoin(agreements, eq(agreements.noteId, acts.noteId))
    .where(dueOn(course.id, localDate(now(), course.zone)))
    .orderBy(asc(acts.followUpOn), asc(acts.id));
  const rows = all.filter((r) => shown.has(r.act.enrolmentId));
  const lines: FollowUpLine[] = [];
  for (const { act, by, person, note, agreed } of rows.slice(0, most)) {
    const since = startOfDay(act.on, course.zone);
    const said = (await repliesOf(db, act.enrolmentId)).filter(
      (r) => !r.automatic && r.at.getTime() >= Math.max(since, act.at.getTime()),
    );
    lines.push({
      actId: act.id,
      enrolmentId: act.enrolmentId,
      name: fullName(person),
      kind: act.kind,
      by,
      own: act.userId === userId,
      on: act.on,
      due: act.followUpOn!,
      about: agreed ? agreed.step : (act.reason ?? note?.text ?? ''),
      agreement: agreed ? { id: agreed.id, goal: agreed.goal, step: agreed.step, said: agreed.said } : null,
      answered: said.at(-1)?.body ?? null,
      happened: await happenedSince(snapshot, act.enrolmentId, act.on),
    });
  }
  return { lines, more: Math.max(0, rows.length - most) };
}
