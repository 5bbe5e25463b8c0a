import { and, eq, inArray, isNull, ne } from 'drizzle-orm';
import { addDays, localDate } from '@/core/calendar/zone';
import { afterAnswer } from '@/core/acts/helping';
import { MOST_PUT_OFF_DAYS } from '@/core/acts/rounds';
import { shortDay } from '@/core/format';
import type { HelpingForm } from '@/core/forms/talk';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { acts, courses, enrolments, helpings, persons } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { config } from '../base/config';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { wakeRunner } from '../jobs/queue';
import { writeLetters } from '../mail/letters';
import { fullName } from '../snapshot/roster';
import { requireCourse, requireEnrolment, requireStudent, type Viewer } from '../access/viewer';
import { recordActs } from './acts';
import { underLock } from '@/data/write/underLock';

type HelpingRow = typeof helpings.$inferSelect;
const OPEN = inArray(helpings.state, ['asked who is helped', 'asked the helper', 'agreed']);

/** Asks whether one student may help another: first the one who would be helped. Returns the id. */
export async function askForHelp(viewer: Viewer, code: string, form: HelpingForm): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const { helped, helper, until } = form;
  if (helped === helper) throw invalid('Choose somebody else to help.');
  for (const id of [helped, helper])
    if ((await requireEnrolment(course, id)).status !== 'active')
      throw invalid('Both must be active in this course.');
  const today = localDate(now(), course.zone);
  if (until <= today || until > addDays(today, MOST_PUT_OFF_DAYS))
    throw invalid(`Choose a day after today, within ${MOST_PUT_OFF_DAYS} days.`);
  const db = await database();
  const id = await underLock(db, course.id, async (tx) => {
    const both = and(eq(helpings.helpedId, helped), eq(helpings.helperId, helper), OPEN);
    if ((await tx.orm.$count(helpings, both)) > 0)
      throw invalid('These two have been asked already; close that first.');
    const [row] = await tx.orm
      .insert(helpings)
      .values({
        courseId: course.id,
        userId: viewer.userId,
        helpedId: helped,
        helperId: helper,
        topic: form.topic.trim(),
        until,
        state: 'asked who is helped',
        at: nowDate(),
        changedAt: nowDate(),
      })
      .returning();
    await recordActs(tx, course, viewer, [
      { enrolmentId: helped, kind: 'paired', reason: form.topic.trim(), followUpOn: until },
    ]);
    await tell(tx, course, viewer.name, row!);
    return row!.id;
  });
  wakeRunner();
  return id;
}

/** Whether the viewer agrees to what they were asked. Only the one whose turn it is can answer, once. */
export async function answerHelp(viewer: Viewer, id: number, yes: boolean): Promise<void> {
  const personId = requireStudent(viewer);
  const db = await database();
  await db.transaction(async (tx) => {
    const [row] = await tx.orm.select().from(helpings).where(eq(helpings.id, id)).for('update');
    const mine = row
      ? await tx.orm
          .select({ id: enrolments.id })
          .from(enrolments)
          .where(and(eq(enrolments.personId, personId), inArray(enrolments.id, [row.helpedId, row.helperId])))
      : [];
    const turn = row?.state === 'asked who is helped' ? row.helpedId : row?.helperId;
    const next = row && mine.some((m) => m.id === turn) ? afterAnswer(row.state, yes) : null;
    if (!row || !next) throw notFound('question to you');
    const [changed] = await tx.orm
      .update(helpings)
      .set({ state: next, changedAt: nowDate() })
      .where(eq(helpings.id, id))
      .returning();
    const [course] = await tx.orm.select().from(courses).where(eq(courses.id, row.courseId));
    // A no is looked at now, not on the day on which the help was to end.
    if (next === 'declined')
      await tx.orm
        .update(acts)
        .set({ followUpOn: localDate(now(), course!.zone) })
        .where(followUpOf(row));
    if (next !== 'asked the helper') return;
    await tell(tx, course!, 'Your instructor', changed!);
  });
  wakeRunner();
}

/** Ends what was asked or agreed: by who teaches the course, or by either of the two. */
export async function closeHelping(viewer: Viewer, id: number, code: string | null): Promise<void> {
  const db = await database();
  const { orm } = db;
  const mine =
    code == null
      ? await orm
          .select({ id: enrolments.id })
          .from(enrolments)
          .where(eq(enrolments.personId, requireStudent(viewer)))
      : [];
  const course = code == null ? null : await requireCourse(viewer, 'act', code);
  const [row] = await orm
    .select()
    .from(helpings)
    .where(and(eq(helpings.id, id), OPEN));
  const may = row && (course ? row.courseId === course.id : mine.some((m) => isOf(row, m.id)));
  if (!may) throw notFound('helping that is open');
  await db.transaction(async (tx) => {
    await tx.orm
      .update(helpings)
      .set({ state: 'closed', changedAt: nowDate() })
      .where(and(eq(helpings.id, id), ne(helpings.state, 'closed')));
    // Who teaches the course and closes it need not look again; a student who does lets them know so.
    await tx.orm
      .update(acts)
      .set(
        course
          ? { followedUpAt: nowDate(), followedUpBy: viewer.userId }
          : { followUpOn: localDate(now(), await zoneOf(tx, row.courseId)) },
      )
      .where(followUpOf(row));
  });
}

/** The follow-up that stands for a request for help, while it is open. */
const followUpOf = (row: HelpingRow) =>
  and(
    eq(acts.kind, 'paired'),
    eq(acts.courseId, row.courseId),
    eq(acts.enrolmentId, row.helpedId),
    eq(acts.userId, row.userId),
    eq(acts.reason, row.topic),
    isNull(acts.followedUpAt),
  );

async function zoneOf({ orm }: Access, courseId: number): Promise<string> {
  const [row] = await orm.select({ zone: courses.zone }).from(courses).where(eq(courses.id, courseId));
  return row!.zone;
}

const isOf = (row: HelpingRow, enrolmentId: number) =>
  row.helpedId === enrolmentId || row.helperId === enrolmentId;

/** Tells the one who is asked by e-mail too. The helper reads the topic and the name of who agreed, nothing of scores. */
async function tell(tx: Access, course: CourseRow, by: string, row: HelpingRow): Promise<void> {
  const asksHelped = row.state === 'asked who is helped';
  const people = await tx.orm
    .select({ enrolmentId: enrolments.id, person: persons })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(inArray(enrolments.id, [row.helpedId, row.helperId]));
  const of = (id: number) => people.find((p) => p.enrolmentId === id)!.person;
  const to = of(asksHelped ? row.helpedId : row.helperId);
  if (!to.email) return;
  const until = shortDay(row.until);
  await writeLetters(tx, [
    {
      key: `helping-${row.id}-${asksHelped ? 'helped' : 'helper'}-${row.at.getTime()}`,
      courseId: course.id,
      enrolmentId: row.helpedId,
      to: { personId: to.id, name: fullName(to), email: to.email },
      subject: asksHelped
        ? `May another student help you with ${row.topic}?`
        : `Would you help with ${row.topic}?`,
      body: asksHelped
        ? `${by} asks whether another student of ${course.title} may help you with ${row.topic}, until ${until}. They would learn your name and the topic, nothing else. You can say yes or no at ${config().baseUrl}/home`
        : `${by} asks whether you would help ${fullName(of(row.helpedId))} with ${row.topic}, until ${until}. They have agreed that you are asked. You can say yes or no at ${config().baseUrl}/home`,
    },
  ]);
}
