import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import type { AttachedFile } from '@/core/formats/mail/attachedFiles';
import type { Incoming } from '@/core/formats/mail/incoming';
import { MOST_ANSWERS_A_DAY } from '@/core/messages/answerLimit';
import { messageIdOf } from '@/core/messages/messageId';
import type { TokenUse } from '@/core/messages/answerToken';
import { answersSince } from '@/data/queries/replies';
import type { Database } from '@/data/database';
import { courses, enrolments, messages, persons, recipients, replies } from '@/data/schema';
import { DAY_MS } from '@/core/units';
import { localDate } from '@/core/calendar/zone';
import { now, nowDate } from '../base/clock';
import { config } from '../base/config';
import { answerCame } from '../follow/answerCame';
import { stagedMail, unstage } from '../staging/staging';
import type { Payload } from '../jobs/queue';
import { writeLetters } from './letters';
import { noteMailFault } from './mailFault';
import { readMail } from './readMail';

/** How an answer reads that was only a file: a calendar's answer, say, which moves and cancels no talk. */
const FILE_ONLY = 'A file came without any text.';
/** How an answer reads whose text can't be read. */
const UNREADABLE = 'This e-mail can’t be read here. It is kept just as it came; you can download it.';

/** What became of an e-mail that came in. */
export type Taken =
  'kept' | 'known' | 'bounced' | 'stopped' | 'nothing in it' | 'nobody' | 'too many' | 'unreadable';

/** Takes the files of an e-mail that came to the address of automatic imports of a course. */
export type TakeReport = (db: Database, feedId: number, files: readonly AttachedFile[]) => Promise<void>;

/** An e-mail as it was read; without words if it can't be. */
interface Mail {
  readonly incoming: Incoming | null;
  /** What tells it from others that have no Message-ID. */
  readonly hash: string;
  readonly upload: string;
}

/**
 * Takes in an e-mail that came and was acknowledged: to each of its recipients, once however often it is sent or begun.
 * One that can't be read is kept as it came.
 */
export async function takeMail(
  db: Database,
  { upload, to }: Payload<'mail in'>,
  takeReport: TakeReport,
  last = false,
): Promise<Taken[]> {
  const path = await stagedMail(upload);
  if (path == null) return [];
  const words = to.some((t) => t.use === 'answer' || t.use === 'bounce');
  const files = to.some((t) => t.use === 'report');
  const vouchers = config().mailVouchers;
  const reading = words || files ? readMail({ path, words, files, vouchers }) : null;
  // What can't be read at the last try either is kept as it came, too.
  const read = await (last ? reading?.catch(() => null) : reading);
  const mail: Mail = { incoming: read?.incoming ?? null, hash: await hashOf(path), upload };
  const taken: Taken[] = [];
  for (const { use, id } of to) {
    if (use === 'report') {
      await takeReport(db, id, read?.files ?? []);
      taken.push(read ? 'kept' : 'unreadable');
    } else taken.push(use === 'stop' ? await stop(db, id) : await takeAnswer(db, { use, id }, mail));
  }
  if (!taken.includes('unreadable')) await unstage(upload);
  return taken;
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return `sha256 ${hash.digest('hex')}`;
}

/**
 * Takes an e-mail that came to an address of a message: an answer into the conversation; word that the message did not
 * arrive to the message and the student's address.
 */
async function takeAnswer(
  db: Database,
  to: { readonly use: Exclude<TokenUse, 'report' | 'stop'>; readonly id: number },
  { incoming, hash, upload }: Mail,
): Promise<Taken> {
  const [copy] = await db.orm
    .select({
      recipient: recipients,
      key: messages.key,
      courseId: messages.courseId,
      zone: courses.zone,
      person: persons,
    })
    .from(recipients)
    .innerJoin(messages, eq(messages.id, recipients.messageId))
    .innerJoin(courses, eq(courses.id, messages.courseId))
    .innerJoin(enrolments, eq(enrolments.id, recipients.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(recipients.id, to.id));
  if (!copy) return 'nobody';
  // Only where messages come back, and only of the very message: an address for answers is in the hands of its student.
  if (to.use === 'bounce')
    return incoming?.report?.of === messageIdOf(to.id, copy.key)
      ? bounce(db, to.id, incoming.report)
      : 'nothing in it';
  if (incoming && incoming.words === '' && incoming.attachments === 0) return 'nothing in it';
  const from = incoming?.from ?? null;
  const isTheirs =
    from != null && [copy.recipient.email, copy.person.email].some((a) => a?.toLowerCase() === from);
  const { enrolmentId } = copy.recipient;
  const at = nowDate();
  return db.transaction(async (tx): Promise<Taken> => {
    await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.id, enrolmentId))
      .for('update');
    if ((await answersSince(tx, enrolmentId, now() - DAY_MS)) >= MOST_ANSWERS_A_DAY) {
      if (isTheirs && !incoming?.automatic)
        await writeLetters(tx, [
          {
            key: `limit.${enrolmentId}.${localDate(now(), copy.zone)}`,
            courseId: copy.courseId,
            enrolmentId,
            to: {
              personId: copy.person.id,
              name: `${copy.person.given} ${copy.person.family}`.trim(),
              email: copy.person.email ?? from!,
            },
            subject: 'Your e-mail wasn’t delivered',
            body: `You’ve sent ${MOST_ANSWERS_A_DAY} replies in one day, which is the limit, so your last e-mail wasn’t delivered. You can write again tomorrow, or talk to your instructor.`,
          },
        ]);
      return 'too many';
    }
    const kept = await tx.orm
      .insert(replies)
      .values({
        courseId: copy.courseId,
        enrolmentId,
        recipientId: to.id,
        body: incoming ? incoming.words || FILE_ONLY : UNREADABLE,
        via: 'mail',
        otherAddress: isTheirs ? null : (from ?? 'unknown'),
        unverified: isTheirs && !incoming?.vouched,
        automatic: incoming?.automatic ?? false,
        dropped: incoming?.attachments ?? 0,
        uploadId: incoming ? null : upload,
        key: incoming?.id ?? hash,
        at,
        // Nobody needs to look at what a machine said.
        readAt: incoming?.automatic ? at : null,
      })
      .onConflictDoNothing()
      .returning({ id: replies.id });
    if (kept.length === 0) return 'known';
    if (!incoming?.automatic) await answerCame(tx, to.id, copy.zone);
    return incoming ? 'kept' : 'unreadable';
  });
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
  { deliveries }: NonNullable<Incoming['report']>,
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
