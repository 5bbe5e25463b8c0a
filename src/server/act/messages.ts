import { NOT_ARRIVED, type MailState } from '@/core/messages/mailState';
import { docIn } from '@/data/queries/docIn';
import { waitsUntil } from '@/data/queries/hasGone';
import { and, asc, desc, eq, inArray, lt, sql, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { messageIdOf } from '@/core/messages/messageId';
import { courses, enrolments, messages, persons, plans, recipients, user } from '@/data/schema';
import { changeIdentity, type Change } from '../access/proposals';
import { database } from '../base/database';
import { idsIn } from '@/data/queries/idsIn';
import { peopleChanged } from '../derive/peopleChanged';
import { setupChanged } from '../derive/setupChanged';
import { invalid, notFound } from '../base/errors';
import { wakeRunner } from '../jobs/queue';
import { unreadCount } from '@/data/queries/replies';
import { queueMail } from '../mail/dispatch';
import { keptMail } from '../mail/kept';
import { fullName } from '../snapshot/roster';
import { mayIn, requireCourse, type Viewer } from '../access/viewer';
import type { CopyView, MessagePage, MessageView } from '@/core/views/messages';

/** Messages a page. */
export const MESSAGES_A_PAGE = 50;

const isState = (states: readonly MailState[]) => sql`${inArray(recipients.mailState, [...states])}`;
const countIf = (is: SQL) => sql<number>`count(*) filter (where ${is})`.mapWith(Number);
const UNREAD = sql`${recipients.readAt} is null`;

/**
 * The messages of a course with what became of them, the newest first, a page at a time.
 *
 * @param before the message that the page goes on from; from the newest without it
 */
export async function courseMessages(viewer: Viewer, code: string, before?: number): Promise<MessagePage> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const heads = await orm
    .select({ message: messages, by: user.name })
    .from(messages)
    .innerJoin(user, eq(user.id, messages.userId))
    .where(and(eq(messages.courseId, course.id), before == null ? undefined : lt(messages.id, before)))
    .orderBy(desc(messages.id))
    .limit(MESSAGES_A_PAGE + 1);
  const page = heads.slice(0, MESSAGES_A_PAGE);
  const copies = await orm
    .select({
      messageId: recipients.messageId,
      first: sql<string>`min(${recipients.subject})`,
      last: sql<string>`max(${recipients.subject})`,
      recipients: countIf(sql`true`),
      unread: countIf(UNREAD),
      failed: countIf(isState(NOT_ARRIVED)),
      waiting: countIf(isState(['queued', 'sending'])),
    })
    .from(recipients)
    .where(
      idsIn(
        recipients.messageId,
        page.map((h) => h.message.id),
      ),
    )
    .groupBy(recipients.messageId);
  const copiesOf = new Map(copies.map((c) => [c.messageId, c]));
  const [all] = await orm
    .select({
      messages: sql<number>`count(distinct ${messages.id})`.mapWith(Number),
      failed: countIf(isState(NOT_ARRIVED)),
      unread: countIf(sql`${recipients.id} is not null and ${UNREAD}`),
    })
    .from(messages)
    .leftJoin(recipients, eq(recipients.messageId, messages.id))
    .where(eq(messages.courseId, course.id));
  return {
    rows: page.map(({ message, by }) => {
      const own = copiesOf.get(message.id);
      return {
        id: message.id,
        // As the recipients read it, where they all read the same; else the template.
        subject: own && own.first === own.last ? own.first : message.subject,
        reason: message.reason,
        by,
        at: message.createdAt.getTime(),
        recipients: own?.recipients ?? 0,
        read: (own?.recipients ?? 0) - (own?.unread ?? 0),
        failed: own?.failed ?? 0,
        waiting: own?.waiting ?? 0,
        goesAt: waitsUntil(message),
      };
    }),
    all: all!,
    answers: await unreadCount(await database(), course.id),
    isOlder: before != null,
    before: heads.length > MESSAGES_A_PAGE ? page.at(-1)!.message.id : null,
  };
}

/** The subject as the recipients read it, where they all read the same; else the template. */
function readSubject(copies: readonly { readonly subject: string }[], template: string): string {
  const first = copies[0]?.subject;
  return first != null && copies.every((c) => c.subject === first) ? first : template;
}

/** One message with each recipient's own copy. */
export async function messageView(viewer: Viewer, code: string, messageId: number): Promise<MessageView> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const [head] = await orm
    .select({ message: messages, by: user.name })
    .from(messages)
    .innerJoin(user, eq(user.id, messages.userId))
    .where(and(eq(messages.id, messageId), eq(messages.courseId, course.id)));
  if (!head) throw notFound('message in this course');
  const rows = await orm
    .select({ recipient: recipients, person: persons, planId: plans.id })
    .from(recipients)
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .leftJoin(plans, eq(plans.recipientId, recipients.id))
    .where(eq(recipients.messageId, messageId))
    .orderBy(asc(persons.family), asc(persons.given));
  const copies: CopyView[] = [];
  for (const { recipient, person, planId } of rows) {
    copies.push({
      recipientId: recipient.id,
      enrolmentId: recipient.enrolmentId,
      name: fullName(person),
      email: recipient.email,
      subject: recipient.subject,
      doc: docIn(recipient),
      state: recipient.mailState,
      error: recipient.mailError,
      attempts: recipient.attempts,
      readAt: recipient.readAt?.getTime() ?? null,
      hasPlan: planId != null,
      kept: (await keptMail(messageIdOf(recipient.id, head.message.key))) != null,
    });
  }
  const { id, reason, createdAt } = head.message;
  const subject = readSubject(copies, head.message.subject);
  return {
    id,
    subject,
    reason,
    by: head.by,
    at: createdAt.getTime(),
    goesAt: waitsUntil(head.message),
    isOwn: head.message.userId === viewer.userId,
    copies,
  };
}

const address = yup.string().trim().email().max(254).required();

/**
 * Tries a copy again that did not arrive, to the same address or a new one, which is then kept as the student's; where
 * courses of others rely on the old one, the new one is proposed. A copy that arrived or is on its way is never tried
 * again. Returns whether a change waits.
 */
export async function retryMail(
  viewer: Viewer,
  code: string,
  recipientId: number,
  email: string,
): Promise<boolean> {
  const course = await requireCourse(viewer, 'act', code);
  const valid: boolean = address.isValidSync(email);
  if (!valid) throw invalid(`“${email.slice(0, 60)}” is not an e-mail address.`);
  const db = await database();
  const change = await db.transaction<Change>(async (tx) => {
    const { orm } = tx;
    const [row] = await orm
      .select({ recipient: recipients, person: persons, goneAt: messages.goneAt })
      .from(recipients)
      .innerJoin(messages, eq(messages.id, recipients.messageId))
      .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(and(eq(recipients.id, recipientId), eq(messages.courseId, course.id)));
    if (!row) throw notFound('message in this course');
    const queued = await orm
      .update(recipients)
      .set({ mailState: 'queued', mailError: null, email: email.trim() })
      .where(and(eq(recipients.id, recipientId), inArray(recipients.mailState, [...NOT_ARRIVED])))
      .returning({ id: recipients.id });
    if (queued.length === 0) throw invalid('This copy has arrived or is on its way.');
    // One that waits for its time goes with the others then.
    if (row.goneAt != null) await queueMail(tx, row.recipient.messageId);
    // Whether it arrives now is to be seen.
    await orm
      .update(persons)
      .set({ mailFault: null, mailFaultAt: null })
      .where(eq(persons.id, row.person.id));
    if (email.trim() === row.recipient.email) return 'none';
    const change = await changeIdentity(tx, viewer.userId, row.person.id, {
      ...row.person,
      email: email.trim(),
    });
    // Statements know people by their address.
    if (change === 'changed') await setupChanged(tx, course.id);
    return change;
  });
  if (change === 'changed') await peopleChanged(db, course.id);
  wakeRunner();
  return change === 'proposed';
}

/** The e-mail of a copy as the mail stand-in received it, for staff of the course or its recipient. */
export async function mailFile(
  viewer: Viewer,
  recipientId: number,
): Promise<{ name: string; bytes: Buffer }> {
  const { orm } = await database();
  const [row] = await orm
    .select({
      key: messages.key,
      courseId: messages.courseId,
      code: courses.code,
      personId: enrolments.personId,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(courses, eq(courses.id, messages.courseId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .where(eq(recipients.id, recipientId));
  if (!row) throw notFound('message');
  if (viewer.role === 'student') {
    if (row.personId !== viewer.personId) throw notFound('message');
  } else if (!(await mayIn(viewer, 'look', row.courseId))) throw notFound('message');
  const bytes = await keptMail(messageIdOf(recipientId, row.key));
  if (!bytes) throw notFound('copy of this e-mail');
  return { name: `${row.code}-message-${recipientId}.eml`, bytes };
}
