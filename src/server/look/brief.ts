import { mailFaultOf } from '@/data/queries/mailFaults';
import { repliesOf, replyView } from '@/data/queries/replies';
import { docIn } from '@/data/queries/docIn';
import { waitsUntil } from '@/data/queries/hasGone';
import { desc, eq } from 'drizzle-orm';
import { breakWeeks, weekOf } from '@/core/calendar/term';
import { messages, recipients, user } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { type Viewer } from '../access/viewer';
import { notFound } from '../base/errors';
import { moreOf } from './briefMore';
import { tickedPlans } from '../snapshot/tickedPlans';
import { roster } from '../snapshot/roster';
import { compareFlags } from '@/core/flags/priority';
import { notAskedLately } from '@/core/outcomes/mastery';
import type { BriefPageView, BriefView, OutcomeView, SentView, StripWeek } from '@/core/views/brief';
import { type ReasonView } from '@/core/views/reason';
import { type Access } from '@/data/database';
import { answersOf } from '@/data/queries/acts';
import { titlesOf, toReason } from '../snapshot/reasons';
import { type Snapshot } from '../snapshot/snapshot';
import { agreementsOf, checkInOf } from '@/data/queries/support';
import { openView } from './frame';
import { comingTalks } from './talks';
import { reportOf } from './report';
import { type AskedScope } from './scope';

/** The one-page picture of a student of a course. The caller has checked that the course is the viewer's. */
export async function studentBrief(snapshot: Snapshot, enrolmentId: number): Promise<BriefView> {
  const db = await database();
  const course = await snapshot.model();
  const { term } = course;
  const [student] = await roster(course.row.id, [enrolmentId]);
  if (!student) throw notFound('student in this course');
  const titleOf = titlesOf(course);
  const own = (await snapshot.flags()).get(enrolmentId) ?? [];
  const all = own.map((f) => toReason(f, titleOf)).sort(latestFirst);
  const measured = (await snapshot.measures()).get(enrolmentId) ?? null;
  const last = (await snapshot.sessions()).get(enrolmentId)?.at(-1);
  return {
    student,
    zone: term.zone,
    at: now(),
    week: weekOf(term, now()),
    lastSeen: last?.until ?? null,
    measures: measured,
    reasons: all.filter((r) => r.closedOn == null).sort(compareFlags),
    pastFlags: all.filter((r) => r.closedOn != null),
    missing: (measured?.completion.missing ?? []).map(titleOf),
    weeks: await stripWeeks(snapshot, enrolmentId),
    outcomes: await outcomesOf(snapshot, enrolmentId),
    plans: await tickedPlans(snapshot, [enrolmentId]),
    sent: await sentTo(db, enrolmentId),
    answers: (await repliesOf(db, enrolmentId)).map(replyView),
    mailFault: await mailFaultOf(db, student.personId),
    marks: await answersOf(db, enrolmentId),
    talks: await comingTalks(enrolmentId),
    agreements: await agreementsOf(db, enrolmentId),
    checkIn: await checkInOf(db, enrolmentId, now()),
    more: null,
  };
}

/** How far a student is with each outcome of the course, in its order. */
export async function outcomesOf(snapshot: Snapshot, enrolmentId: number): Promise<OutcomeView[]> {
  const found = (await snapshot.masteries()).get(enrolmentId) ?? [];
  return found.map(({ outcomeId: id, title, mean, low, high, level, askedAt }) => {
    const old = notAskedLately(askedAt?.getTime() ?? null, now());
    return { id, title, mean, low, high, level, old };
  });
}

/** The weekly axis of the strips: every week of the term, with what is known of it. */
export async function stripWeeks(snapshot: Snapshot, enrolmentId: number): Promise<StripWeek[]> {
  const { term } = await snapshot.model();
  const own = (await snapshot.weeks()).get(enrolmentId) ?? [];
  const ofClass = await snapshot.classWeeks();
  const breaks = new Set(breakWeeks(term));
  return Array.from({ length: term.weeks }, (_, i) => {
    const week = i + 1;
    const mine = own.find((w) => w.week === week);
    const theirs = ofClass.find((w) => w.week === week);
    return {
      week,
      isBreak: breaks.has(week),
      own: mine
        ? {
            days: mine.days,
            minutesInClass: mine.inClassSeconds / 60,
            minutesOutside: (mine.seconds - mine.inClassSeconds) / 60,
            done: mine.done,
            expected: mine.expected,
            standing: mine.standing,
          }
        : null,
      classMedianMinutes: theirs ? theirs.medianSeconds / 60 : null,
      classStanding:
        theirs?.standingLow != null && theirs.standingHigh != null
          ? { low: theirs.standingLow, high: theirs.standingHigh }
          : null,
    };
  });
}

async function sentTo({ orm }: Access, enrolmentId: number): Promise<SentView[]> {
  const rows = await orm
    .select({ recipient: recipients, message: messages, by: user.name })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .where(eq(recipients.enrolmentId, enrolmentId))
    .orderBy(desc(messages.createdAt), desc(messages.id));
  return rows.map(({ recipient, message, by }) => ({
    messageId: message.id,
    recipientId: recipient.id,
    subject: recipient.subject,
    doc: docIn(recipient),
    goesAt: waitsUntil(message),
    reason: message.reason,
    by,
    at: message.createdAt.getTime(),
    mailState: recipient.mailState,
    readAt: recipient.readAt?.getTime() ?? null,
  }));
}

/** The flag that closed last first, those that are open before all. */
const latestFirst = (a: ReasonView, b: ReasonView): number =>
  (b.closedOn ?? '9').localeCompare(a.closedOn ?? '9') || b.openedOn.localeCompare(a.openedOn);

/** The page of a student: the brief with all that belongs to it, and what they did in the days of the window. */
export async function briefView(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  asked: AskedScope = {},
): Promise<BriefPageView> {
  const { snapshot, scope, frame } = await openView(viewer, code, asked, { evaluated: true });
  const brief = await studentBrief(snapshot, enrolmentId);
  return {
    ...frame,
    brief: { ...brief, more: await moreOf(viewer, snapshot, brief) },
    report: await reportOf(snapshot, scope.window, brief.student),
  };
}
