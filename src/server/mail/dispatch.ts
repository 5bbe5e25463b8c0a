import { and, asc, eq, inArray, notInArray, sql } from 'drizzle-orm';
import { createTransport, type Transporter } from 'nodemailer';
import { mailText } from '@/core/messages/mailText';
import { messageIdOf } from '@/core/messages/messageId';
import type { Access, Database } from '@/data/database';
import { courses, enrolments, messages, persons, plans, planSteps, recipients, user } from '@/data/schema';
import { nowDate } from '../base/clock';
import { config } from '../base/config';
import { enqueue } from '../jobs/queue';
import { Later, type Working } from '../jobs/runner';
import { fullName } from '../snapshot/roster';
import { keptMail, usesStandIn } from './kept';
import { mailOptions } from './transport';

type CopyState = Partial<typeof recipients.$inferInsert>;

/** Outcomes that the database did not take down: it is told again, and nobody is asked a second time. */
const holder = globalThis as typeof globalThis & { lanternUnsettled?: Map<number, CopyState> };
const unsettled = (): Map<number, CopyState> => (holder.lanternUnsettled ??= new Map());

/** Lets the copies of a message that wait be sent, in the transaction that queues them. */
export const queueMail = (access: Access, messageId: number): Promise<string> =>
  enqueue(access, {
    kind: 'mail',
    payload: { messageId },
    key: `mail ${messageId}`,
    line: `mail ${messageId}`,
  });

/** Lets every message be sent that has copies waiting or left in the middle: called once at the start. */
export async function queueUnsent(db: Database): Promise<void> {
  const rows = await db.orm
    .selectDistinct({ id: recipients.messageId })
    .from(recipients)
    .where(
      and(
        inArray(recipients.mailState, ['queued', 'sending']),
        sql`not exists (select 1 from jobs j where j.line = 'mail ' || ${recipients.messageId}
          and j.state in ('queued', 'running'))`,
      ),
    );
  for (const { id } of rows) await queueMail(db, id);
}

/**
 * Sends the copies of a message that wait, one after the other. Only one process does so for a message (they share a
 * line), so a copy that is found in the middle of being sent was left there: by a stop, or by a database that failed.
 * A server that cannot be reached is tried again later; after the last time the copies say that it could not.
 */
export async function sendCopies(
  db: Database,
  { messageId }: { readonly messageId: number },
  { job, last, progress }: Pick<Working, 'job' | 'last' | 'progress'>,
): Promise<void> {
  await settleUnsure(db, messageId);
  const { smtpUrl, mailMayBePlain } = config();
  const transport = smtpUrl ? createTransport(mailOptions(smtpUrl, mailMayBePlain)) : null;
  const waiting = and(eq(recipients.messageId, messageId), eq(recipients.mailState, 'queued'));
  const putOff: number[] = [];
  let reason: string | null = null;
  try {
    for (;;) {
      await progress('Sending');
      const next = db.orm
        .select({ id: recipients.id })
        .from(recipients)
        .where(and(waiting, notInArray(recipients.id, putOff)))
        .orderBy(asc(recipients.id))
        .limit(1);
      const [copy] = await db.orm
        .update(recipients)
        .set({ mailState: 'sending', attempts: sql`${recipients.attempts} + 1` })
        .where(and(inArray(recipients.id, next), waiting))
        .returning({ id: recipients.id });
      if (!copy) break;
      const { state, nobodyNow } = await sendOne(db, transport, copy.id);
      if (state.mailState !== 'queued') continue;
      putOff.push(copy.id);
      reason = state.mailError ?? '';
      if (nobodyNow) break;
    }
  } finally {
    transport?.close();
  }
  if (reason == null) return;
  const sentence = reason.replace(/\.?$/, '.');
  const tried = `It was tried ${job.attempts === 1 ? 'once' : `${job.attempts} times`}.`;
  await db.orm
    .update(recipients)
    .set(
      last
        ? { mailState: 'failed', mailError: `${sentence} ${tried}` }
        : { mailError: `${sentence} It is tried again soon.` },
    )
    .where(waiting);
  if (!last) throw new Later('The mail server took no mail.');
}

/**
 * Settles the copies of a message that were left in the middle of a conversation with the mail server. What this
 * process knows it says; the stand-in's folder tells whether it has them; any other server cannot be asked, so those
 * are shown as unsure and nobody gets it twice.
 */
async function settleUnsure(db: Database, messageId: number): Promise<void> {
  const rows = await db.orm
    .select({ id: recipients.id, key: messages.key })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .where(and(eq(recipients.messageId, messageId), eq(recipients.mailState, 'sending')));
  for (const row of rows) {
    const known = unsettled().get(row.id);
    if (known) await settle(db, row.id, known);
    else if (await keptMail(messageIdOf(row.id, row.key)))
      await settle(db, row.id, { mailState: 'sent', sentAt: nowDate(), mailError: null });
    else if (usesStandIn()) await settle(db, row.id, { mailState: 'queued' });
    else {
      await settle(db, row.id, {
        mailState: 'unsure',
        mailError: 'The server stopped while sending; it may or may not have arrived.',
      });
    }
  }
}

interface Outcome {
  readonly state: CopyState;
  /** The server takes mail for nobody now: there is no use in trying the next copy. */
  readonly nobodyNow?: boolean;
}

/** Takes down what became of a copy. */
async function settle({ orm }: Access, id: number, state: CopyState): Promise<void> {
  unsettled().set(id, state);
  await orm.update(recipients).set(state).where(eq(recipients.id, id));
  unsettled().delete(id);
}

async function sendOne(db: Database, transport: Transporter | null, id: number): Promise<Outcome> {
  const copy = await copyOf(db, id);
  // Erased while it waited.
  if (!copy) return { state: {} };
  const outcome = transport ? await converse(db, transport, copy) : NO_SERVER;
  await settle(db, id, outcome.state);
  return outcome;
}

const NO_SERVER: Outcome = {
  state: { mailState: 'failed', mailError: 'No mail server is set up (SMTP_URL).' },
};
type Copy = Awaited<ReturnType<typeof copyOf>>;

/** A copy with all that stands in its e-mail. */
async function copyOf({ orm }: Access, id: number) {
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
  return copy;
}

/** Offers a copy to the mail server. */
async function converse(
  { orm }: Access,
  transport: Transporter,
  { recipient, message, person, ...copy }: NonNullable<Copy>,
): Promise<Outcome> {
  const steps = await orm
    .select({ title: planSteps.title, minutes: planSteps.minutes, on: planSteps.on })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .where(eq(plans.recipientId, recipient.id))
    .orderBy(asc(planSteps.position));
  const { mailFrom, baseUrl } = config();
  const messageId = messageIdOf(recipient.id, message.key);
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
    return { state: { mailState: 'sent', sentAt: nowDate(), mailError: null } };
  } catch (error) {
    return afterFailure(error, messageId);
  }
}

interface MailFailure {
  readonly responseCode?: number;
  readonly response?: string;
  readonly command?: string;
  readonly code?: string;
}

/** Parts of a conversation before the text of the message. */
const BEFORE_TEXT = ['CONN', 'EHLO', 'HELO', 'MAIL FROM', 'RCPT TO'];

/** What a failed conversation means: a clear no, nothing sent for now, or nobody knows. */
async function afterFailure(error: unknown, messageId: string): Promise<Outcome> {
  const failure: MailFailure = error instanceof Error ? (error as Error & MailFailure) : {};
  const failed = (mailError: string): Outcome => ({ state: { mailState: 'failed', mailError } });
  if (failure.responseCode) {
    const said = (failure.response ?? '').slice(0, 240);
    if (failure.responseCode >= 500) return failed(`The mail server refused it: ${said}`);
    // 4yz is a transient negative reply: the same may go through later (RFC 5321, 4.2.1).
    return {
      state: { mailState: 'queued', mailError: `The mail server asks to wait: ${said}` },
      nobodyNow:
        failure.responseCode === 421 || failure.command === 'CONN' || failure.command === 'MAIL FROM',
    };
  }
  if (failure.code === 'ETLS')
    return failed('The mail server offers no encryption, so nothing was sent (see LANTERN_MAIL_PLAIN).');
  if (!failure.command || BEFORE_TEXT.includes(failure.command))
    return {
      state: { mailState: 'queued', mailError: 'The mail server could not be reached.' },
      nobodyNow: true,
    };
  if (await keptMail(messageId)) return { state: { mailState: 'sent', sentAt: nowDate(), mailError: null } };
  return {
    state: {
      mailState: 'unsure',
      mailError: 'The connection broke while sending; it may or may not have arrived.',
    },
  };
}
