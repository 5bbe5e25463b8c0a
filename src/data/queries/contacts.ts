import { and, asc, eq, inArray } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { Contact } from '@/core/acts/contact';
import { MAIL_SAYS } from '@/core/messages/mailState';
import { shortDay, weekdayAndTime } from '@/core/format';
import type { Access } from '../database';
import type { CourseRow } from './courseModel';
import {
  agreements,
  checkIns,
  enrolments,
  messages,
  notes,
  persons,
  recipients,
  replies,
  talks,
  user,
} from '../schema';
import { HAS_GONE } from './hasGone';

/**
 * Everything that was said between students of a course and those who teach them, the earliest first: messages and
 * answers, talks and calls with what was agreed, bookings, and what students said of how it goes. Notes that nobody was
 * told are none.
 *
 * @param enrolmentId of one student; of all without it
 */
export async function contactsOf(
  { orm }: Access,
  { id: courseId, zone }: Pick<CourseRow, 'id' | 'zone'>,
  enrolmentId: number | null,
): Promise<Contact[]> {
  const ofOne = (column: AnyPgColumn) => (enrolmentId == null ? undefined : eq(column, enrolmentId));
  const sent = await orm
    .select({ copy: recipients, at: messages.createdAt, reason: messages.reason, by: user.name })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(user, eq(user.id, messages.userId))
    .where(and(eq(messages.courseId, courseId), HAS_GONE, ofOne(recipients.enrolmentId)));
  const names = { given: persons.given, family: persons.family };
  const answers = await orm
    .select({ row: replies, subject: recipients.subject, ...names })
    .from(replies)
    .leftJoin(recipients, eq(recipients.id, replies.recipientId))
    .innerJoin(enrolments, eq(enrolments.id, replies.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(and(eq(replies.courseId, courseId), ofOne(replies.enrolmentId)));
  const spoken = await orm
    .select({ row: notes, agreed: agreements, by: user.name })
    .from(notes)
    .innerJoin(user, eq(user.id, notes.userId))
    .leftJoin(agreements, eq(agreements.noteId, notes.id))
    .where(
      and(eq(notes.courseId, courseId), inArray(notes.kind, ['talk', 'call']), ofOne(notes.enrolmentId)),
    );
  const booked = await orm
    .select({ row: talks, by: user.name })
    .from(talks)
    .innerJoin(user, eq(user.id, talks.userId))
    .where(and(eq(talks.courseId, courseId), ofOne(talks.enrolmentId)));
  const words = await orm
    .select({ row: checkIns, ...names })
    .from(checkIns)
    .innerJoin(enrolments, eq(enrolments.id, checkIns.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(and(eq(checkIns.courseId, courseId), ofOne(checkIns.enrolmentId)))
    .orderBy(asc(checkIns.id));
  const whole = (p: { readonly given: string; readonly family: string }) => `${p.given} ${p.family}`;
  const all: Contact[] = [
    ...sent.map(({ copy, at, reason, by }): Contact => ({
      at: at.getTime(),
      enrolmentId: copy.enrolmentId,
      direction: 'out',
      way: copy.mailState === 'sent' ? 'here and by e-mail' : 'here',
      by,
      about: copy.subject,
      text: copy.body,
      state: `${copy.readAt ? 'read' : 'not read'}; e-mail ${MAIL_SAYS[copy.mailState]}; because: ${reason}`,
    })),
    ...answers.map(({ row, subject, ...p }): Contact => ({
      at: row.at.getTime(),
      enrolmentId: row.enrolmentId,
      direction: 'in',
      way: row.via === 'mail' ? 'e-mail' : 'here',
      by: row.otherAddress ? `${whole(p)} (from ${row.otherAddress})` : whole(p),
      about: subject ?? '',
      text: row.body,
      state: row.automatic ? 'sent by a machine' : row.readAt ? 'read' : 'not read',
    })),
    ...spoken.map(({ row, agreed, by }): Contact => ({
      at: row.at.getTime(),
      enrolmentId: row.enrolmentId,
      direction: 'both',
      way: row.kind === 'call' ? 'call' : 'talk',
      by,
      about: agreed
        ? `Agreed: ${agreed.goal}. First step: ${agreed.step}, by ${shortDay(agreed.on)}`
        : `On ${shortDay(row.on)}`,
      text: [row.text, agreed?.said ? `“${agreed.said}”` : ''].filter(Boolean).join('\n'),
      state: agreed?.closedAs ?? '',
    })),
    ...booked.map(({ row, by }): Contact => ({
      at: row.createdAt.getTime(),
      enrolmentId: row.enrolmentId,
      direction: 'in',
      way: 'booking',
      by,
      about: `Talk ${weekdayAndTime(row.startsAt.getTime(), zone)}, ${row.place}`,
      text: row.why ?? '',
      state: row.cancelledAt
        ? `cancelled by the ${row.cancelledBy === 'student' ? 'student' : 'instructor'}`
        : 'booked',
    })),
    ...words.map(({ row, ...p }): Contact => ({
      at: row.at.getTime(),
      enrolmentId: row.enrolmentId,
      direction: 'in',
      way: 'check-in',
      by: whole(p),
      about: `It goes ${row.how}${Array.isArray(row.inTheWay) && row.inTheWay.length > 0 ? `; in the way: ${row.inTheWay.join(', ')}` : ''}`,
      text: row.word,
      state: '',
    })),
  ];
  return all.sort((a, b) => a.at - b.at);
}
