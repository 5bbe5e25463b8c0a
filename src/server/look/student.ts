import { and, asc, desc, eq, isNull, ne } from 'drizzle-orm';
import { isResource } from '@/core/course/kinds';
import { dueFor, isClosed, workStatus } from '@/core/gradebook/status';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { DAY_MS, type LocalDate } from '@/core/units';
import { activities, courses, enrolments, messages, persons, recipients, user } from '@/data/schema';
import { stripWeeks } from './brief';
import { now, nowDate } from '../base/clock';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { loadScores } from '@/data/queries/scores';
import type { CourseRow } from '@/data/queries/courseModel';
import { notFound } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { plansOf } from '@/data/queries/plans';
import { requireStudent, type Viewer } from '../access/viewer';
import type { OwnCourse, OwnMessage, OwnWork, StudentHome } from '@/core/views/student';
import { snapshotOf } from '../snapshot/snapshot';

/** How far ahead a student's list of what is due looks. */
const AHEAD_DAYS = 14;

/** A student's own picture: messages, plans, strips and what is due. Nothing about anybody else is in it. */
export async function studentHome(viewer: Viewer): Promise<StudentHome> {
  const personId = requireStudent(viewer);
  const { orm } = await database();
  const [person] = await orm.select().from(persons).where(eq(persons.id, personId));
  if (!person) throw notFound('student');
  const places = await orm
    .select({ enrolment: enrolments, course: courses })
    .from(enrolments)
    .innerJoin(courses, eq(courses.id, enrolments.courseId))
    .where(
      and(eq(enrolments.personId, personId), ne(enrolments.status, 'archived'), isNull(courses.forImport)),
    )
    .orderBy(asc(courses.id));
  const own: OwnCourse[] = [];
  for (const { enrolment, course } of places)
    own.push(await ownCourse(course, enrolment.id, enrolment.joinedOn));
  return { givenName: person.given, courses: own };
}

async function ownCourse(
  course: CourseRow,
  enrolmentId: number,
  joinedOn: LocalDate | null,
): Promise<OwnCourse> {
  const snapshot = await snapshotOf(await ensureEvaluated(course));
  const weeks = await stripWeeks(snapshot, enrolmentId);
  return {
    head: courseHead(course),
    today: localDate(now(), course.zone),
    // The class's figures are for those who teach.
    weeks: weeks.map((w) => ({
      ...w,
      own: w.own && { ...w.own, standing: course.showsStanding ? w.own.standing : null },
      classMedianMinutes: null,
      classStanding: null,
    })),
    standing: course.showsStanding ? (weeks.findLast((w) => w.own != null)?.own?.standing ?? null) : null,
    messages: await ownMessages(enrolmentId),
    plans: await plansOf(await database(), [enrolmentId]),
    open: await openWork(course, enrolmentId, joinedOn),
  };
}

async function ownMessages(enrolmentId: number): Promise<OwnMessage[]> {
  const { orm } = await database();
  const rows = await orm
    .select({ recipient: recipients, at: messages.createdAt, from: user.name, address: user.email })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .where(eq(recipients.enrolmentId, enrolmentId))
    .orderBy(desc(messages.id));
  return rows.map(({ recipient, at, from, address }) => ({
    recipientId: recipient.id,
    subject: recipient.subject,
    body: recipient.body,
    from,
    address,
    at: at.getTime(),
    readAt: recipient.readAt?.getTime() ?? null,
  }));
}

async function openWork(
  course: CourseRow,
  enrolmentId: number,
  joinedOn: LocalDate | null,
): Promise<OwnWork[]> {
  const { orm } = await database();
  const at = now();
  const since = joinedOn ? startOfDay(joinedOn, course.zone) : -Infinity;
  const works = await orm.select().from(activities).where(eq(activities.courseId, course.id));
  const own = (await loadScores(await database(), course.id, [enrolmentId])).get(enrolmentId);
  return (
    works
      .filter((w) => !isResource(w.kind) && w.dueAt != null && w.dueAt.getTime() >= since)
      .map((w) => {
        const score = own?.get(String(w.id));
        const work = { due: w.dueAt!.getTime(), graded: w.points != null };
        const closed = isClosed({ closes: w.closesAt?.getTime() ?? null }, score, at);
        return { title: w.title, due: dueFor(work, score)!, status: workStatus(work, score, at), closed };
      })
      // What has closed is open no more: nothing that the student could do about it stands here.
      .filter((w) => !w.closed)
      .filter((w) => w.due <= at + AHEAD_DAYS * DAY_MS)
      .filter((w) => w.status === 'missing' || w.status === 'not yet due')
      .sort((a, b) => a.due - b.due)
      .map(({ title, due, status }) => ({ title, due, status }))
  );
}

/** Marks a message of the viewer's own as read; the first reading counts. */
export async function markRead(viewer: Viewer, recipientId: number): Promise<void> {
  const personId = requireStudent(viewer);
  const { orm } = await database();
  const [own] = await orm
    .select({ id: recipients.id })
    .from(recipients)
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .where(and(eq(recipients.id, recipientId), eq(enrolments.personId, personId)));
  if (!own) throw notFound('message to you');
  await orm
    .update(recipients)
    .set({ readAt: nowDate() })
    .where(and(eq(recipients.id, recipientId), isNull(recipients.readAt)));
}
