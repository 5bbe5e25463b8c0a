import { and, asc, eq, inArray, isNull, ne, notInArray, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { Transporter } from 'nodemailer';
import { docHtml } from '@/core/messages/docText';
import { mailHtml, mailText } from '@/core/messages/mailText';
import { messageIdOf } from '@/core/messages/messageId';
import type { Access, Database } from '@/data/database';
import { courses, enrolments, messages, persons, plans, planSteps, recipients, user } from '@/data/schema';
import { nowDate } from '../base/clock';
import { config } from '../base/config';
import { enqueue } from '../jobs/queue';
import { Later, type Working } from '../jobs/runner';
import { groupBy } from '@/core/groupBy';
import { docIn } from '@/data/queries/docIn';
import { idsIn } from '@/data/queries/idsIn';
import { fullName } from '../snapshot/roster';
import { addressOf } from './addresses';
import { deliver, leftInTheMiddle, NO_SERVER, type MailResult, type Outcome } from './deliver';
import { noteMailFault } from './mailFault';
import { mailTransport } from './transport';

/** Outcomes that the database did not take down: it is told again, and nobody is asked a second time. */
const holder = globalThis as typeof globalThis & { lanternUnsettled?: Map<number, MailResult> };
const unsettled = (): Map<number, MailResult> => (holder.lanternUnsettled ??= new Map());

/**
 * Lets a message go, and the copies of it that wait be sent, in the transaction that queues them.
 *
 * @param delayMs from now on
 */
export const queueMail = (access: Access, messageId: number, delayMs = 0): Promise<string> =>
  enqueue(access, {
    kind: 'mail',
    payload: { messageId },
    key: `mail ${messageId}`,
    line: `mail ${messageId}`,
    delayMs,
  });

/**
 * Lets a message go, if it has not: from now on its recipients read it, and nobody can call it back. Who has left the
 * course since it was written is left out.
 */
export async function letGo({ orm }: Access, messageId: number): Promise<void> {
  const [gone] = await orm
    .update(messages)
    .set({ goneAt: nowDate() })
    .where(and(eq(messages.id, messageId), isNull(messages.goneAt)))
    .returning({ id: messages.id });
  if (!gone) return;
  const left = orm.select({ id: enrolments.id }).from(enrolments).where(ne(enrolments.status, 'active'));
  await orm
    .update(recipients)
    .set({ mailState: 'left out', mailError: 'They had left the course before it went.' })
    .where(and(eq(recipients.messageId, messageId), inArray(recipients.enrolmentId, left)));
}

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
  await db.transaction((tx) => letGo(tx, messageId));
  await settleUnsure(db, messageId);
  const transport = mailTransport();
  const waiting = and(eq(recipients.messageId, messageId), eq(recipients.mailState, 'queued'));
  const putOff: number[] = [];
  let reason: string | null = null;
  // What became of a copy is written with the claim of the next: one write a copy, and the wire waits for nothing else.
  let before: Settled | null = null;
  try {
    for (let more = true; more;) {
      await progress('Sending');
      const batch = await copiesWaiting(db, and(waiting, notInArray(recipients.id, putOff))!);
      more = batch.length > 0;
      for (const copy of batch) {
        const { id } = copy.recipient;
        const taken = await claimNext(db, id, before);
        before = null;
        if (!taken) continue;
        const outcome = transport
          ? await converse(db, transport, { ...copy, recipient: { ...copy.recipient, ...taken } })
          : NO_SERVER;
        unsettled().set(id, outcome.state);
        before = { id, state: outcome.state };
        if (outcome.state.mailState !== 'queued') continue;
        putOff.push(id);
        reason = outcome.state.mailError ?? '';
        if (!outcome.nobodyNow) continue;
        more = false;
        break;
      }
      // The next batch is read after what became of this one is written.
      if (before) await settle(db, before.id, before.state);
      before = null;
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
    await settle(db, row.id, known ?? (await leftInTheMiddle(messageIdOf(row.id, row.key))));
  }
}

/** Takes down what became of a copy. */
async function settle({ orm }: Access, id: number, state: MailResult): Promise<void> {
  unsettled().set(id, state);
  await orm.update(recipients).set(state).where(eq(recipients.id, id));
  unsettled().delete(id);
}

interface Settled {
  readonly id: number;
  readonly state: MailResult;
}

/**
 * Takes the next copy for sending, and takes down what became of the one before, in one write. Returns its address as it
 * is now; undefined if it was erased, or is not waiting any more.
 */
async function claimNext(
  { orm }: Access,
  next: number,
  before: Settled | null,
): Promise<{ readonly email: string | null } | undefined> {
  const isNext = sql`${recipients.id} = ${next}`;
  const or = <T>(column: AnyPgColumn, claimed: SQL, settled: T) =>
    before
      ? sql`case when ${isNext} then ${claimed} else ${sql.param(settled, column)} end`
      : sql`${claimed}`;
  const rows = await orm
    .update(recipients)
    .set({
      mailState: or(recipients.mailState, sql`'sending'`, before?.state.mailState),
      attempts: sql`${recipients.attempts} + case when ${isNext} then 1 else 0 end`,
      ...(before
        ? {
            mailError: or(recipients.mailError, sql`${recipients.mailError}`, before.state.mailError ?? null),
            sentAt: or(recipients.sentAt, sql`${recipients.sentAt}`, before.state.sentAt ?? null),
          }
        : {}),
    })
    .where(
      sql`(${isNext} and ${recipients.mailState} = 'queued')${before ? sql` or ${recipients.id} = ${before.id}` : sql``}`,
    )
    .returning({ id: recipients.id, email: recipients.email });
  if (before) unsettled().delete(before.id);
  return rows.find((r) => r.id === next);
}

type Copy = Awaited<ReturnType<typeof copiesWaiting>>[number];

/** Copies that are read at once: what stands in them takes longer to find than to send. */
const BATCH = 100;

/** The next copies that wait, each with all that stands in its e-mail. */
async function copiesWaiting({ orm }: Access, which: SQL) {
  const copies = await orm
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
    .where(which)
    .orderBy(asc(recipients.id))
    .limit(BATCH);
  const steps = await orm
    .select({
      copy: plans.recipientId,
      title: planSteps.title,
      minutes: planSteps.minutes,
      on: planSteps.on,
    })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .where(
      idsIn(
        plans.recipientId,
        copies.map((c) => c.recipient.id),
      ),
    )
    .orderBy(asc(planSteps.position));
  const stepsOf = groupBy(steps, (s) => s.copy);
  return copies.map((copy) => ({ ...copy, steps: stepsOf.get(copy.recipient.id) ?? [] }));
}

/** Offers a copy to the mail server. */
async function converse(
  db: Access,
  transport: Transporter,
  { recipient, message, person, steps, ...copy }: Copy,
): Promise<Outcome> {
  const { mailFrom, baseUrl } = config();
  const home = `${baseUrl}/home`;
  const also = { steps, home, talks: message.offersTalk };
  return deliver(
    transport,
    {
      messageId: messageIdOf(recipient.id, message.key),
      date: message.createdAt,
      // A display name is its owner's choice; the address is that of their account.
      from: { name: `${copy.from} (${copy.address}), ${copy.course}`, address: mailFrom },
      // An answer goes to whoever wrote, not to the machine: to their conversation where it can come in, else by e-mail.
      replyTo: { name: copy.from, address: addressOf('answer', recipient.id) ?? copy.address },
      to: { name: fullName(person), address: recipient.email ?? '' },
      ...envelopeOf(recipient),
      subject: recipient.subject,
      text: mailText(recipient.body, also),
      html: mailHtml(docHtml(docIn(recipient)), also),
    },
    (said) => noteMailFault(db, recipient.id, said),
  );
}

/** Word that it could not be delivered comes back to an address that says which copy it was. */
function envelopeOf({ id, email }: typeof recipients.$inferSelect) {
  const from = addressOf('bounce', id);
  return from && email ? { envelope: { from, to: email } } : {};
}
