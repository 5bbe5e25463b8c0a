import { asc, desc, eq } from 'drizzle-orm';
import { breakWeeks, weekOf } from '@/core/calendar/term';
import {
  classWeeks,
  flags,
  masteries,
  measures,
  messages,
  outcomes,
  recipients,
  roundMarks,
  sessions,
  studentWeeks,
  user,
} from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { ensureEvaluated } from '../derive/evaluation';
import { requireTaught, type Viewer } from '../access/viewer';
import { termOf, type CourseRow } from '../snapshot/courseModel';
import { notFound } from '../base/errors';
import { activityTitles, toReason } from './flags';
import { moreOf } from './briefMore';
import { plansOf } from '../act/plans';
import { roster } from '../snapshot/roster';
import { compareFlags } from '@/core/flags/priority';
import type { BriefView, MarkLine, OutcomeView, SentView, StripWeek } from '@/core/views/brief';

/** The one-page picture of a student of a course. The caller has checked that the course is the viewer's. */
export async function studentBrief(
  course: CourseRow,
  enrolmentId: number,
  titles?: (id: string) => string,
): Promise<BriefView> {
  const { orm } = await database();
  const [student] = await roster(course.id, [enrolmentId]);
  if (!student) throw notFound('student in this course');
  const titleOf = titles ?? (await activityTitles(course.id));
  const flagRows = await orm
    .select()
    .from(flags)
    .where(eq(flags.enrolmentId, enrolmentId))
    .orderBy(desc(flags.closedOn), desc(flags.openedOn));
  const all = flagRows.map((f) => toReason(f, titleOf));
  const [measured] = await orm.select().from(measures).where(eq(measures.enrolmentId, enrolmentId));
  const [last] = await orm
    .select({ at: sessions.endedAt })
    .from(sessions)
    .where(eq(sessions.enrolmentId, enrolmentId))
    .orderBy(desc(sessions.startedAt))
    .limit(1);
  return {
    student,
    zone: course.zone,
    week: weekOf(termOf(course), now()),
    lastSeen: last?.at.getTime() ?? null,
    measures: measured?.measures ?? null,
    reasons: all.filter((r) => r.closedOn == null).sort(compareFlags),
    pastFlags: all.filter((r) => r.closedOn != null),
    missing: (measured?.measures.completion.missing ?? []).map(titleOf),
    weeks: await stripWeeks(course, enrolmentId),
    outcomes: await outcomesOf(enrolmentId),
    plans: await plansOf([enrolmentId]),
    sent: await sentTo(enrolmentId),
    marks: await marksOf(enrolmentId),
    more: null,
  };
}

/** The weekly axis of the strips: every week of the term, with what is known of it. */
export async function stripWeeks(course: CourseRow, enrolmentId: number): Promise<StripWeek[]> {
  const { orm } = await database();
  const term = termOf(course);
  const own = await orm.select().from(studentWeeks).where(eq(studentWeeks.enrolmentId, enrolmentId));
  const ofClass = await orm.select().from(classWeeks).where(eq(classWeeks.courseId, course.id));
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

/** Mastery of each outcome, in the order of the course. */
export async function outcomesOf(enrolmentId: number): Promise<OutcomeView[]> {
  const { orm } = await database();
  const rows = await orm
    .select({ mastery: masteries, title: outcomes.title })
    .from(masteries)
    .innerJoin(outcomes, eq(outcomes.id, masteries.outcomeId))
    .where(eq(masteries.enrolmentId, enrolmentId))
    .orderBy(asc(outcomes.position));
  return rows.map(({ mastery, title }) => ({ ...mastery, id: mastery.outcomeId, title }));
}

async function sentTo(enrolmentId: number): Promise<SentView[]> {
  const { orm } = await database();
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
    body: recipient.body,
    reason: message.reason,
    by,
    at: message.createdAt.getTime(),
    mailState: recipient.mailState,
    readAt: recipient.readAt?.getTime() ?? null,
  }));
}

async function marksOf(enrolmentId: number): Promise<MarkLine[]> {
  const { orm } = await database();
  const rows = await orm
    .select({ mark: roundMarks, by: user.name })
    .from(roundMarks)
    .innerJoin(user, eq(user.id, roundMarks.userId))
    .where(eq(roundMarks.enrolmentId, enrolmentId))
    .orderBy(desc(roundMarks.id));
  return rows
    .filter(({ mark }) => mark.action === 'put off' || mark.action === 'seen')
    .map(({ mark, by }) => ({
      action: mark.action,
      on: mark.on,
      until: mark.until,
      reason: mark.reason,
      by,
    }));
}

/** The brief as a page of its own, for who teaches the course. */
export async function briefView(viewer: Viewer, code: string, enrolmentId: number): Promise<BriefView> {
  const course = await ensureEvaluated(await requireTaught(viewer, code));
  const brief = await studentBrief(course, enrolmentId);
  return { ...brief, more: await moreOf(viewer, course, brief) };
}
