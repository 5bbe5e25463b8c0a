import { and, asc, eq } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import MailComposer from 'nodemailer/lib/mail-composer';
import { writeMbox, type Kept } from '@/core/formats/mail/mbox';
import { writeCsv } from '@/core/formats/csv';
import { docHtml } from '@/core/messages/docText';
import { messageIdOf } from '@/core/messages/messageId';
import { contactsOf } from '@/data/queries/contacts';
import { docIn } from '@/data/queries/docIn';
import { HAS_GONE } from '@/data/queries/hasGone';
import { enrolments, messages, persons, recipients, replies, user } from '@/data/schema';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import { requireCourse, requireEnrolment, type Viewer } from '../access/viewer';
import { fullName, roster } from '../snapshot/roster';
import { shownEmail } from '@/data/queries/shownEmail';

interface File {
  readonly name: string;
  readonly type: string;
  readonly body: string | Buffer;
}

const HEAD = ['at', 'student_id', 'student', 'direction', 'way', 'by', 'about', 'text', 'state'];

/** The course of a contact log, checked against who asks: those who teach it. */
async function opened(viewer: Viewer, code: string, enrolmentId: number | null) {
  const course = await requireCourse(viewer, 'act', code);
  if (enrolmentId != null) await requireEnrolment(course, enrolmentId);
  const people = new Map(
    (await roster(course.id, enrolmentId == null ? undefined : [enrolmentId])).map((p) => [p.enrolmentId, p]),
  );
  const [one] = enrolmentId == null ? [] : people.values();
  return { course, people, name: `${course.code}-contacts${one ? `-${one.studentId}` : ''}` };
}

/** Everything that was said with one student, or with all of a course, as CSV; instants in UTC. */
export async function contactsCsv(viewer: Viewer, code: string, enrolmentId: number | null): Promise<File> {
  const { course, people, name } = await opened(viewer, code, enrolmentId);
  const rows = (await contactsOf(await database(), course, enrolmentId)).map((c) => {
    const person = people.get(c.enrolmentId);
    return [
      new Date(c.at).toISOString(),
      person?.studentId ?? '',
      person?.name ?? '',
      c.direction,
      c.way,
      c.by,
      c.about,
      c.text,
      c.state,
    ];
  });
  return { name: `${name}.csv`, type: 'text/csv; charset=utf-8', body: writeCsv(HEAD, rows) };
}

type Copy = Awaited<ReturnType<typeof copiesOf>>[number];
type Reply = Awaited<ReturnType<typeof repliesIn>>[number];

const ofOne = (column: AnyPgColumn, enrolmentId: number | null) =>
  enrolmentId == null ? undefined : eq(column, enrolmentId);

async function copiesOf(courseId: number, enrolmentId: number | null, recipientId?: number) {
  const { orm } = await database();
  return orm
    .select({ copy: recipients, message: messages, person: persons, by: user.name, from: user.email })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(
      and(
        eq(messages.courseId, courseId),
        HAS_GONE,
        ofOne(recipients.enrolmentId, enrolmentId),
        recipientId == null ? undefined : eq(recipients.id, recipientId),
      ),
    )
    .orderBy(asc(recipients.id));
}

async function repliesIn(courseId: number, enrolmentId: number | null) {
  const { orm } = await database();
  return orm
    .select({
      row: replies,
      copy: recipients,
      key: messages.key,
      person: persons,
      place: enrolments,
      to: user.email,
      by: user.name,
    })
    .from(replies)
    .innerJoin(enrolments, eq(enrolments.id, replies.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .leftJoin(recipients, eq(recipients.id, replies.recipientId))
    .leftJoin(messages, eq(messages.id, recipients.messageId))
    .leftJoin(user, eq(user.id, messages.userId))
    .where(and(eq(replies.courseId, courseId), ofOne(replies.enrolmentId, enrolmentId)))
    .orderBy(asc(replies.id));
}

const build = (options: ConstructorParameters<typeof MailComposer>[0]): Promise<Buffer> =>
  new MailComposer({ ...options, newline: '\r\n' }).compile().build();

const sentMail = ({ copy, message, person, by, from }: Copy): Promise<Buffer> =>
  build({
    messageId: messageIdOf(copy.id, message.key),
    date: message.createdAt,
    from: { name: by, address: from },
    to: { name: fullName(person), address: copy.email ?? '' },
    subject: copy.subject,
    text: copy.body,
    html: docHtml(docIn(copy)),
  });

const answerMail = ({ row, copy, key, person, place, to, by }: Reply): Promise<Buffer> =>
  build({
    messageId: `<answer-${row.id}@ready-lantern.example>`,
    date: row.at,
    from: { name: fullName(person), address: row.otherAddress ?? shownEmail(person, place) ?? '' },
    to: { name: by ?? '', address: to ?? '' },
    ...(copy && key ? { inReplyTo: messageIdOf(copy.id, key), references: messageIdOf(copy.id, key) } : {}),
    subject: copy ? `Re: ${copy.subject}` : 'Answer',
    text: row.body,
  });

/** The messages to one student, or to all of a course, and their answers as a mailbox file, the earliest first. */
export async function contactsMbox(viewer: Viewer, code: string, enrolmentId: number | null): Promise<File> {
  const { course, name } = await opened(viewer, code, enrolmentId);
  const kept: Kept[] = [];
  for (const sent of await copiesOf(course.id, enrolmentId))
    kept.push({
      from: sent.from,
      at: sent.message.createdAt.getTime(),
      raw: (await sentMail(sent)).toString('utf8'),
    });
  for (const reply of await repliesIn(course.id, enrolmentId))
    kept.push({
      from: reply.row.otherAddress ?? shownEmail(reply.person, reply.place) ?? '',
      at: reply.row.at.getTime(),
      raw: (await answerMail(reply)).toString('utf8'),
    });
  kept.sort((a, b) => a.at - b.at);
  return { name: `${name}.mbox`, type: 'application/mbox', body: writeMbox(kept) };
}

/** One copy of a message as an e-mail. */
export async function copyMail(viewer: Viewer, code: string, recipientId: number): Promise<File> {
  const course = await requireCourse(viewer, 'act', code);
  const [copy] = await copiesOf(course.id, null, recipientId);
  if (!copy) throw notFound('message in this course');
  return {
    name: `${course.code}-message-${recipientId}.eml`,
    type: 'message/rfc822',
    body: await sentMail(copy),
  };
}
