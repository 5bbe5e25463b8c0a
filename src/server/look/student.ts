import { groupBy } from '@/core/groupBy';
import { repliesOf, replyView } from '@/data/queries/replies';
import { and, asc, desc, eq, isNull, ne } from 'drizzle-orm';
import { isResource } from '@/core/course/kinds';
import { dueFor, isClosed, workStatus } from '@/core/gradebook/status';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { DAY_MS, type LocalDate } from '@/core/units';
import { activities, courses, enrolments, messages, persons, recipients, user } from '@/data/schema';
import { assignmentsOf } from './assignments';
import { stripWeeks } from './brief';
import { ownLearning } from './ownLearning';
import { ownPlan } from './ownPlan';
import { now, nowDate } from '../base/clock';
import { courseHead } from '../snapshot/courseHead';
import { database } from '../base/database';
import { docIn } from '@/data/queries/docIn';
import { HAS_GONE } from '@/data/queries/hasGone';
import { loadScores } from '@/data/queries/scores';
import type { CourseRow } from '@/data/queries/courseModel';
import { notFound } from '../base/errors';
import { ensureEvaluated } from '../derive/evaluation';
import { tickedPlans } from '../snapshot/tickedPlans';
import { requireStudent, type Viewer } from '../access/viewer';
import { ownView } from '@/core/plans/ownView';
import type { OwnAssignment } from '@/core/views/assignment';
import type { OwnCourse, OwnMeeting, OwnMessage, OwnWork, StudentHome } from '@/core/views/student';
import { checksOf } from './check';
import { whyWords } from '@/core/messages/whyWords';
import { agreementsOf, checkInOf, ownHelpings } from '@/data/queries/support';
import { ownTalks } from './talks';
import { pastMeetings } from './session';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { studyTimesOf } from '../snapshot/studyTimes';

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
  for (const { enrolment, course } of places) own.push(await ownCourse(course, enrolment));
  return { givenName: person.given, mailCopies: person.mailCopies, courses: own };
}

async function ownCourse(course: CourseRow, enrolment: typeof enrolments.$inferSelect): Promise<OwnCourse> {
  const { id: enrolmentId, joinedOn, sectionId } = enrolment;
  const db = await database();
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
    plans: (await tickedPlans(snapshot, [enrolmentId])).map(ownView),
    studyTimes: await studyTimesOf(db, snapshot, enrolmentId),
    ...(await ownTalks(course, enrolment)),
    agreements: await agreementsOf(db, enrolmentId),
    helpings: await ownHelpings(db, enrolmentId),
    checkIn: await checkInOf(db, enrolmentId, now()),
    active: enrolment.status === 'active',
    toAccept: enrolment.contactHidden,
    meeting: await ownMeeting(snapshot, enrolmentId, sectionId),
    open: await openWork(course, enrolmentId, joinedOn),
    assignments: await ownAssignments(snapshot, enrolmentId, joinedOn),
    ...(await ownLearning(snapshot, enrolmentId)),
    ...(await ownPlan(snapshot, enrolmentId)),
  };
}

/** How long the last meeting stays on a student's page. */
const MEETING_DAYS = 7;

async function ownMeeting(
  snapshot: Snapshot,
  enrolmentId: number,
  sectionId: number | null,
): Promise<OwnMeeting | null> {
  const at = now();
  const meeting = pastMeetings(await snapshot.model(), at).find((m) => m.sectionId === sectionId);
  if (!meeting || meeting.until < at - MEETING_DAYS * DAY_MS) return null;
  const running = meeting.until > at;
  const period = { from: meeting.from, until: Math.min(meeting.until, at), running };
  const checks = await checksOf(await database(), snapshot, [enrolmentId], period);
  return { ...period, check: checks.get(enrolmentId)! };
}

async function ownMessages(enrolmentId: number): Promise<OwnMessage[]> {
  const db = await database();
  const answers = groupBy(await repliesOf(db, enrolmentId), (r) => r.recipientId);
  const rows = await db.orm
    .select({
      recipient: recipients,
      message: messages,
      from: user.name,
      address: user.email,
      assignment: activities.title,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .leftJoin(activities, eq(activities.id, messages.activityId))
    .where(and(eq(recipients.enrolmentId, enrolmentId), HAS_GONE))
    .orderBy(desc(messages.id));
  return rows.map(({ recipient, message, from, address, assignment }) => ({
    recipientId: recipient.id,
    subject: recipient.subject,
    doc: docIn(recipient),
    from,
    address,
    at: message.createdAt.getTime(),
    why: message.saysWhy ? whyWords(message.about, assignment) : null,
    offersTalk: message.offersTalk,
    readAt: recipient.readAt?.getTime() ?? null,
    answers: (answers.get(recipient.id) ?? []).map(replyView),
  }));
}

/** What is not returned yet shows no points of its attempts either. */
async function ownAssignments(
  snapshot: Snapshot,
  enrolmentId: number,
  joinedOn: LocalDate | null,
): Promise<OwnAssignment[]> {
  const { term } = await snapshot.model();
  const all = await assignmentsOf(
    snapshot,
    enrolmentId,
    joinedOn == null ? null : startOfDay(joinedOn, term.zone),
  );
  return all.map((a) => (a.feedbackAt == null ? { ...a, attempts: a.attempts.map(() => null) } : a));
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
      .filter((w) => !isResource(w.kind))
      .flatMap((w) => {
        const score = own?.get(String(w.id));
        const work = { due: w.dueAt?.getTime() ?? null, graded: w.points != null };
        const due = dueFor(work, score);
        if (due == null || due < since) return [];
        const closed = isClosed({ closes: w.closesAt?.getTime() ?? null }, score, at);
        const { id, title, points } = w;
        return [{ id, title, points, due, status: workStatus(work, score, at), closed }];
      })
      // What has closed is open no more: nothing that the student could do about it stands here.
      .filter((w) => !w.closed)
      .filter((w) => w.due <= at + AHEAD_DAYS * DAY_MS)
      .filter((w) => w.status === 'missing' || w.status === 'not yet due')
      .sort((a, b) => a.due - b.due)
      .map(({ id, title, points, due, status }) => ({ id, title, points, due, status }))
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
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(and(eq(recipients.id, recipientId), eq(enrolments.personId, personId), HAS_GONE));
  if (!own) throw notFound('message to you');
  await orm
    .update(recipients)
    .set({ readAt: nowDate() })
    .where(and(eq(recipients.id, recipientId), isNull(recipients.readAt)));
}
