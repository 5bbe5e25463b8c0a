import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { readIncoming, type Incoming } from '@/core/formats/mail/incoming';
import type { TokenUse } from '@/core/messages/answerToken';
import type { Database } from '@/data/database';
import { courses, enrolments, messages, persons, recipients, replies } from '@/data/schema';
import { nowDate } from '../base/clock';
import { answerCame } from '../follow/answerCame';
import { noteMailFault } from './mailFault';

/** How an answer reads that was only a file: a calendar's answer, say, which moves and cancels no talk. */
const FILE_ONLY = 'A file came without words.';

/** What became of an e-mail that came in. */
export type Taken = 'kept' | 'known' | 'bounced' | 'stopped' | 'nothing in it' | 'nobody';

/**
 * Takes an e-mail in that came to an address of a copy: an answer into the conversation, once however often it is sent;
 * word that the copy did not arrive to the copy and the student's address; a wish for no more e-mail to the person's switch.
 */
export async function takeMail(
  db: Database,
  to: { readonly use: Exclude<TokenUse, 'report'>; readonly id: number },
  raw: Uint8Array,
): Promise<Taken> {
  if (to.use === 'stop') return stop(db, to.id);
  const mail = await readIncoming(raw);
  const [copy] = await db.orm
    .select({ recipient: recipients, courseId: messages.courseId, zone: courses.zone, email: persons.email })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(courses, eq(courses.id, messages.courseId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(recipients.id, to.id));
  if (!copy) return 'nobody';
  // A report goes to where copies come back; some servers send it to whom an answer would go.
  if (mail.deliveries) return bounce(db, to.id, mail.deliveries);
  if (to.use === 'bounce') return 'nothing in it';
  if (mail.words === '' && mail.attachments === 0) return 'nothing in it';
  const known = [copy.recipient.email, copy.email].map((a) => a?.toLowerCase());
  const at = nowDate();
  const isNew = await db.transaction(async (tx) => {
    const kept = await tx.orm
      .insert(replies)
      .values({
        courseId: copy.courseId,
        enrolmentId: copy.recipient.enrolmentId,
        recipientId: to.id,
        body: mail.words || FILE_ONLY,
        via: 'mail',
        otherAddress: mail.from != null && known.includes(mail.from) ? null : (mail.from ?? 'unknown'),
        automatic: mail.automatic,
        dropped: mail.attachments,
        key: mail.id ?? `sha256 ${createHash('sha256').update(raw).digest('hex')}`,
        at,
        // Nobody needs to look at what a machine said.
        readAt: mail.automatic ? at : null,
      })
      .onConflictDoNothing()
      .returning({ id: replies.id });
    if (kept.length > 0 && !mail.automatic) await answerCame(tx, to.id, copy.zone);
    return kept.length > 0;
  });
  return isNew ? 'kept' : 'known';
}

/** Turns the copies by e-mail off for a person: what the way out at the head of each automatic mail asks for (RFC 2369). */
async function stop(db: Database, personId: number): Promise<Taken> {
  const [person] = await db.orm
    .update(persons)
    .set({ mailCopies: false })
    .where(eq(persons.id, personId))
    .returning({ id: persons.id });
  return person ? 'stopped' : 'nobody';
}

async function bounce(
  db: Database,
  recipientId: number,
  deliveries: NonNullable<Incoming['deliveries']>,
): Promise<Taken> {
  const failed = deliveries.find((d) => d.action === 'failed');
  // What is delayed is tried on by whoever reports it.
  if (!failed) return 'nothing in it';
  const why = `${failed.status}${failed.said ? ` ${failed.said}` : ''}`.slice(0, 240);
  await db.transaction(async (tx) => {
    await tx.orm
      .update(recipients)
      .set({ mailState: 'failed', mailError: `It came back: ${why}` })
      .where(eq(recipients.id, recipientId));
    await noteMailFault(tx, recipientId, why);
  });
  return 'bounced';
}
