import { and, eq, inArray, sql } from 'drizzle-orm';
import type { CalendarMethod } from '@/core/formats/talkCalendar';
import { escapeHtml } from '@/core/messages/docText';
import type { Instant } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { enrolments, letters, persons, talks } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { config } from '../base/config';
import { enqueue } from '../jobs/queue';
import { Later, type Working } from '../jobs/runner';
import { addressOf } from './addresses';
import { deliver, leftInTheMiddle, NO_SERVER, type MailResult } from './deliver';
import { mailTransport } from './transport';

/** E-mail that the application sends of itself. */
export interface NewLetter {
  /** What it says, and of which state of it: the same is written once. Letters, digits, dots and dashes. */
  readonly key: string;
  readonly courseId: number;
  readonly to:
    | { readonly personId: number; readonly name: string; readonly email: string }
    | { readonly userId: string; readonly name: string; readonly email: string };
  readonly talkId?: number;
  /** The student whom it names. */
  readonly enrolmentId?: number;
  readonly replyTo?: string;
  readonly subject: string;
  readonly body: string;
  readonly calendar?: { readonly text: string; readonly method: CalendarMethod };
  /** At once if left out. */
  readonly goesAt?: Instant;
}

/** Writes letters and queues them, in the transaction of their cause. Call `wakeRunner` once it is through. */
export async function writeLetters(access: Access, list: readonly NewLetter[]): Promise<void> {
  if (list.length === 0) return;
  const rows = await access.orm
    .insert(letters)
    .values(
      list.map(({ to, talkId, enrolmentId, replyTo, calendar, goesAt, key, courseId, subject, body }) => ({
        key,
        courseId,
        personId: 'personId' in to ? to.personId : null,
        userId: 'userId' in to ? to.userId : null,
        talkId,
        enrolmentId,
        toName: to.name,
        email: to.email,
        replyTo,
        subject,
        body,
        calendar: calendar?.text,
        calendarMethod: calendar?.method,
        mailState: 'queued' as const,
        goesAt: new Date(goesAt ?? now()),
        createdAt: nowDate(),
      })),
    )
    .onConflictDoNothing({ target: letters.key })
    .returning({ id: letters.id, goesAt: letters.goesAt });
  for (const { id, goesAt } of rows) await enqueueLetter(access, id, Math.max(0, goesAt.getTime() - now()));
}

const enqueueLetter = (access: Access, letterId: number, delayMs = 0): Promise<string> =>
  enqueue(access, { kind: 'letter', payload: { letterId }, key: `letter ${letterId}`, delayMs });

/** Removes the letters of a talk that have not gone: what they say holds no more. */
export async function dropLetters({ orm }: Access, talkId: number): Promise<void> {
  await orm.delete(letters).where(and(eq(letters.talkId, talkId), eq(letters.mailState, 'queued')));
}

/** Queues every letter that waits without a job, or was left in the middle: called once at the start. */
export async function queueLetters(db: Database): Promise<void> {
  const rows = await db.orm
    .select({ id: letters.id, goesAt: letters.goesAt })
    .from(letters)
    .where(
      and(
        inArray(letters.mailState, ['queued', 'sending']),
        sql`not exists (select 1 from jobs j where j.kind = 'letter' and j.state in ('queued', 'running')
          and j.payload ->> 'letterId' = ${letters.id}::text)`,
      ),
    );
  for (const { id, goesAt } of rows) await enqueueLetter(db, id, Math.max(0, goesAt.getTime() - now()));
}

const settle = ({ orm }: Access, id: number, state: MailResult) =>
  orm.update(letters).set(state).where(eq(letters.id, id));

/** Sends a letter that waits. A server that cannot be reached is tried again later. */
export async function sendLetter(
  db: Database,
  { letterId }: { readonly letterId: number },
  { last }: Pick<Working, 'last'>,
): Promise<void> {
  const [found] = await db.orm
    .select({ letter: letters, copies: persons.mailCopies, place: enrolments.status })
    .from(letters)
    .leftJoin(persons, eq(persons.id, letters.personId))
    .leftJoin(talks, eq(talks.id, letters.talkId))
    .leftJoin(enrolments, eq(enrolments.id, talks.enrolmentId))
    .where(eq(letters.id, letterId));
  if (!found) return;
  const { letter } = found;
  if (letter.mailState === 'sending') await settle(db, letterId, await leftInTheMiddle(messageId(letter)));
  if (found.copies === false) return void (await settle(db, letterId, { mailState: 'turned off' }));
  if (letter.personId != null && found.place != null && found.place !== 'active')
    return void (await settle(db, letterId, { mailState: 'left out' }));
  const [taken] = await db.orm
    .update(letters)
    .set({ mailState: 'sending', attempts: sql`${letters.attempts} + 1` })
    .where(and(eq(letters.id, letterId), eq(letters.mailState, 'queued')))
    .returning();
  if (!taken) return;
  const { state } = await offer(taken);
  if (state.mailState !== 'queued') return void (await settle(db, letterId, state));
  await settle(db, letterId, last ? { ...state, mailState: 'failed' } : state);
  if (!last) throw new Later('The mail server took no mail.');
}

type Letter = typeof letters.$inferSelect;
const messageId = ({ key }: Letter) => `<${key}@ready-lantern.example>`;

async function offer(letter: Letter) {
  const transport = mailTransport();
  if (!transport) return NO_SERVER;
  const way = letter.personId == null ? null : wayOut(letter.personId);
  try {
    return await deliver(
      transport,
      {
        messageId: messageId(letter),
        date: letter.createdAt,
        from: { name: 'Ready Lantern', address: config().mailFrom },
        to: { name: letter.toName, address: letter.email },
        ...(letter.replyTo ? { replyTo: letter.replyTo } : {}),
        subject: letter.subject,
        text: `${letter.body}\n`,
        html: `<!doctype html>\n<html lang="en"><body>\n${letter.body
          .split('\n\n')
          .map((p) => `<p>${escapeHtml(p).replaceAll('\n', '<br>')}</p>`)
          .join('\n')}\n</body></html>\n`,
        // Sent by a machine (RFC 3834, 5): no other machine answers it.
        headers: { 'Auto-Submitted': 'auto-generated' },
        ...(way ? { list: { unsubscribe: way } } : {}),
        ...(letter.calendar && letter.calendarMethod
          ? {
              icalEvent: {
                method: letter.calendarMethod,
                filename: 'talk.ics',
                content: letter.calendar,
              },
            }
          : {}),
      },
      () => Promise.resolve(),
    );
  } finally {
    transport.close();
  }
}

/** Where a student turns e-mail off (RFC 2369): by an e-mail of theirs where those come in, else on their own page. */
function wayOut(personId: number): string {
  const address = addressOf('stop', personId);
  return address ? `mailto:${address}?subject=stop` : `${config().baseUrl}/home`;
}
