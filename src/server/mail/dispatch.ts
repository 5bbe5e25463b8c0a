import { and, asc, eq } from 'drizzle-orm';
import { createTransport, type Transporter } from 'nodemailer';
import { mailText } from '@/core/messages/mailText';
import { messageIdOf } from '@/core/messages/messageId';
import { courses, enrolments, messages, persons, plans, planSteps, recipients, user } from '@/data/schema';
import { nowDate } from '../clock';
import { config } from '../config';
import { database } from '../database';
import { reportFailure } from '../failure';
import { fullName } from '../roster';
import { keptMail, usesStandIn } from './kept';
import { mailOptions } from './transport';

const holder = globalThis as typeof globalThis & { lanternDispatch?: Promise<void>; lanternMore?: boolean };

/**
 * Sends what is queued, one copy after the other, until nothing is left. Only one dispatch runs in a process; a call
 * during it makes it look once more.
 */
export function dispatchMail(): Promise<void> {
  holder.lanternMore = true;
  holder.lanternDispatch ??= (async () => {
    while (holder.lanternMore) {
      holder.lanternMore = false;
      await sendQueued();
    }
  })()
    .catch((error: unknown) => void reportFailure('mail', error))
    .finally(() => (holder.lanternDispatch = undefined));
  return holder.lanternDispatch;
}

/**
 * Settles the copies that a stop left in the middle of a conversation with the mail server. The stand-in's folder
 * tells whether it has them; any other server cannot be asked, so those are shown as unsure and nobody gets it twice.
 */
export async function recoverMail(): Promise<void> {
  const { orm } = await database();
  const rows = await orm
    .select({ id: recipients.id, key: messages.key })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(eq(recipients.mailState, 'sending'));
  for (const row of rows) {
    if (await keptMail(messageIdOf(row.id, row.key)))
      await settle(row.id, { mailState: 'sent', sentAt: nowDate() });
    else if (usesStandIn()) await settle(row.id, { mailState: 'queued' });
    else {
      await settle(row.id, {
        mailState: 'unsure',
        mailError: 'The server stopped while sending; it may or may not have arrived.',
      });
    }
  }
}

async function settle(id: number, values: Partial<typeof recipients.$inferInsert>): Promise<void> {
  const { orm } = await database();
  await orm.update(recipients).set(values).where(eq(recipients.id, id));
}

async function sendQueued(): Promise<void> {
  const { smtpUrl, mailMayBePlain } = config();
  const { orm } = await database();
  const transport = smtpUrl ? createTransport(mailOptions(smtpUrl, mailMayBePlain)) : null;
  try {
    for (;;) {
      const [next] = await orm
        .select({ id: recipients.id })
        .from(recipients)
        .where(eq(recipients.mailState, 'queued'))
        .orderBy(asc(recipients.id))
        .limit(1);
      if (!next) return;
      // Claimed by a condition in the same statement: two processes on one server never take the same copy.
      const claimed = await orm
        .update(recipients)
        .set({ mailState: 'sending' })
        .where(and(eq(recipients.id, next.id), eq(recipients.mailState, 'queued')))
        .returning({ id: recipients.id, attempts: recipients.attempts });
      if (claimed[0]) await sendOne(transport, claimed[0].id, claimed[0].attempts + 1);
    }
  } finally {
    transport?.close();
  }
}

async function sendOne(transport: Transporter | null, id: number, attempts: number): Promise<void> {
  const { orm } = await database();
  const [copy] = await orm
    .select({
      recipient: recipients,
      message: messages,
      person: persons,
      from: user.name,
      address: user.email,
      course: courses.code,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(courses, eq(courses.id, messages.courseId))
    .innerJoin(user, eq(user.id, messages.userId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(recipients.id, id));
  if (!copy) return;
  const { recipient, message, person } = copy;
  if (!transport) {
    return settle(id, { mailState: 'failed', attempts, mailError: 'No mail server is set up (SMTP_URL).' });
  }
  const steps = await orm
    .select({ title: planSteps.title, minutes: planSteps.minutes, on: planSteps.on })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .where(eq(plans.recipientId, id))
    .orderBy(asc(planSteps.position));
  const { mailFrom, baseUrl } = config();
  const messageId = messageIdOf(id, message.key);
  try {
    await transport.sendMail({
      messageId,
      date: message.createdAt,
      // A display name is its owner's choice; the address is that of their account.
      from: { name: `${copy.from} (${copy.address}), ${copy.course}`, address: mailFrom },
      to: { name: fullName(person), address: recipient.email ?? '' },
      subject: recipient.subject,
      text: mailText(recipient.body, steps, `${baseUrl}/home`),
    });
    await settle(id, { mailState: 'sent', attempts, sentAt: nowDate(), mailError: null });
  } catch (error) {
    await settle(id, { attempts, ...(await afterFailure(error, messageId)) });
  }
}

interface MailFailure {
  readonly responseCode?: number;
  readonly response?: string;
  readonly command?: string;
  readonly code?: string;
}

/** What a failed conversation means: a clear no, nothing sent, or nobody knows. */
async function afterFailure(error: unknown, messageId: string) {
  const failure: MailFailure = error instanceof Error ? (error as Error & MailFailure) : {};
  if (failure.responseCode) {
    return {
      mailState: 'failed' as const,
      mailError: `The mail server refused it: ${failure.response ?? ''}`.slice(0, 300),
    };
  }
  if (failure.code === 'ETLS')
    return {
      mailState: 'failed' as const,
      mailError: 'The mail server offers no encryption, so nothing was sent (see LANTERN_MAIL_PLAIN).',
    };
  const beforeText =
    !failure.command || ['CONN', 'EHLO', 'HELO', 'MAIL FROM', 'RCPT TO'].includes(failure.command);
  if (beforeText) return { mailState: 'failed' as const, mailError: 'The mail server could not be reached.' };
  if (await keptMail(messageId)) return { mailState: 'sent' as const, sentAt: nowDate(), mailError: null };
  return {
    mailState: 'unsure' as const,
    mailError: 'The connection broke while sending; it may or may not have arrived.',
  };
}
