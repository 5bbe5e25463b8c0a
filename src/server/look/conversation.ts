import { and, desc, eq, lt } from 'drizzle-orm';
import { firstLine } from '@/core/format';
import type { Instant } from '@/core/units';
import type { ConversationLine, ConversationView, Said } from '@/core/views/conversation';
import { docText } from '@/core/messages/docText';
import { docIn } from '@/data/queries/docIn';
import { mailFaultOf } from '@/data/queries/mailFaults';
import { localDate } from '@/core/calendar/zone';
import { OPEN_FOLLOW_UP } from '@/data/queries/openFollowUp';
import { now } from '../base/clock';
import { HAS_GONE, waitsUntil } from '@/data/queries/hasGone';
import { repliesOf, replyView, unreadCount, unreadReplies } from '@/data/queries/replies';
import { acts, messages, recipients, replies, user } from '@/data/schema';
import { database } from '../base/database';
import { requireCourse, requireEnrolment, type Viewer } from '../access/viewer';
import { roster } from '../snapshot/roster';
import type { CourseRow } from '@/data/queries/courseModel';

/** The conversations of a course: those with an answer nobody has read first, then whoever said something last. */
export async function conversations(viewer: Viewer, code: string): Promise<ConversationLine[]> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { orm } = db;
  const unread = await unreadReplies(db, course.id);
  const answered = await orm
    .selectDistinctOn([replies.enrolmentId], { row: replies })
    .from(replies)
    .where(eq(replies.courseId, course.id))
    .orderBy(replies.enrolmentId, desc(replies.at), desc(replies.id));
  const sent = await orm
    .selectDistinctOn([recipients.enrolmentId], { copy: recipients, at: messages.createdAt })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(and(eq(messages.courseId, course.id), HAS_GONE))
    .orderBy(recipients.enrolmentId, desc(messages.createdAt), desc(messages.id));
  const sentOf = new Map(sent.map((s) => [s.copy.enrolmentId, s]));
  const people = new Map(
    (
      await roster(
        course.id,
        answered.map((a) => a.row.enrolmentId),
      )
    ).map((p) => [p.enrolmentId, p]),
  );
  return answered
    .flatMap(({ row }): ConversationLine[] => {
      const person = people.get(row.enrolmentId);
      if (!person) return [];
      const wrote = sentOf.get(row.enrolmentId);
      const staffLast = wrote != null && wrote.at.getTime() > row.at.getTime();
      return [
        {
          enrolmentId: row.enrolmentId,
          name: person.name,
          section: person.section,
          last: firstLine(staffLast ? docText(docIn(wrote.copy)) : row.body, 120),
          lastBy: staffLast ? 'staff' : 'student',
          at: staffLast ? wrote.at.getTime() : row.at.getTime(),
          unread: unread.get(row.enrolmentId) ?? 0,
        },
      ];
    })
    .sort((a, b) => Number(b.unread > 0) - Number(a.unread > 0) || b.at - a.at);
}

/** How much of a conversation is on one page. */
const A_PAGE = 50;

/**
 * What was said between a student and those who teach them: a page of it.
 *
 * @param before shows what was said before this instant; the latest if left out
 */
export async function conversationView(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  before?: Instant,
): Promise<ConversationView> {
  const course = await requireCourse(viewer, 'act', code);
  const place = await requireEnrolment(course, enrolmentId);
  const db = await database();
  const { orm } = db;
  const [entry] = await roster(course.id, [enrolmentId]);
  const sent = await orm
    .select({ copy: recipients, message: messages, name: user.name })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .where(
      and(
        eq(recipients.enrolmentId, enrolmentId),
        before == null ? undefined : lt(messages.createdAt, new Date(before)),
      ),
    )
    .orderBy(desc(messages.createdAt), desc(recipients.id))
    .limit(A_PAGE + 1);
  const answers = await repliesOf(db, enrolmentId, { before, latest: A_PAGE + 1 });
  const all: Said[] = [
    ...sent.map(({ copy, message, name }): Said => ({
      by: 'staff',
      key: `m${copy.id}`,
      name,
      subject: copy.subject,
      doc: docIn(copy),
      at: message.createdAt.getTime(),
      goesAt: waitsUntil(message),
      readAt: copy.readAt?.getTime() ?? null,
      mailState: copy.mailState,
    })),
    ...answers.map((row): Said => ({ by: 'student', key: `r${row.id}`, ...replyView(row) })),
  ].sort((a, b) => a.at - b.at);
  const said = all.slice(-A_PAGE);
  const others = await unreadReplies(db, course.id);
  return {
    enrolmentId,
    name: entry!.name,
    section: entry!.section,
    email: entry!.email,
    mailFault: await mailFaultOf(db, place.personId),
    followUp: await openFollowUp(enrolmentId),
    today: localDate(now(), course.zone),
    said,
    earlier: all.length > said.length ? said[0]!.at : null,
    isLatest: before == null,
    next: [...others.keys()].find((id) => id !== enrolmentId) ?? null,
  };
}

/** The latest act about a student of which a follow-up is open. */
async function openFollowUp(enrolmentId: number): Promise<ConversationView['followUp']> {
  const { orm } = await database();
  const [row] = await orm
    .select({ actId: acts.id, on: acts.followUpOn })
    .from(acts)
    .where(and(eq(acts.enrolmentId, enrolmentId), OPEN_FOLLOW_UP))
    .orderBy(desc(acts.id))
    .limit(1);
  return row?.on == null ? null : { actId: row.actId, on: row.on };
}

/** How many answers in a course wait to be read. */
export const answersToRead = async (course: CourseRow): Promise<number> =>
  unreadCount(await database(), course.id);
