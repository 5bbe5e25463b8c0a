import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { eq, sql } from 'drizzle-orm';
import { simpleParser } from 'mailparser';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import type { SendInput } from '@/core/views/compose';
import { docOf, type MessageDoc } from '@/core/messages/doc';
import { docText } from '@/core/messages/docText';
import type { Selection } from '@/core/rules/selection';
import { activities, enrolments, jobs, messages, persons, recipients, templates } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { briefView } from '../look/brief';
import { pickedFor } from '@/core/acts/pick';
import { callBack, composeView, sendMessages } from './compose';
import { removeTemplate, saveTemplate } from './templates';
import { tray } from './tray';
import { rereadConfig } from '../base/config';
import { TRIES } from '../jobs/queue';
import { workOff } from '../work';
import { queueUnsent } from '../mail/dispatch';
import { courseMessages, mailFile, MESSAGES_A_PAGE, messageView, retryMail } from './messages';
import { coursePlans, tickStep } from './plans';
import { roundsView } from '../look/rounds';
import { markRead, studentHome } from '../look/student';

const small = withSmallCourse();
let mail: MailStandIn;
const folder = () => join(small.test.folder, 'mail');
const kept = () => (existsSync(folder()) ? readdirSync(folder()) : []);

beforeAll(async () => {
  mail = await startMailStandIn(folder());
  process.env.SMTP_URL = `smtp://127.0.0.1:${mail.port}`;
  process.env.LANTERN_MAIL_STANDIN = 'yes';
  rereadConfig();
});
afterAll(async () => {
  await mail.close();
  delete process.env.SMTP_URL;
  delete process.env.LANTERN_MAIL_STANDIN;
  rereadConfig();
});

const ids = (...external: string[]) =>
  Promise.all(external.map(async (e) => (await small.course.student(e)).enrolmentId));
const letter = (enrolmentIds: number[], over: Partial<SendInput> = {}): SendInput => ({
  key: randomUUID(),
  subject: 'About {course}',
  doc: docOf(
    'Hello {first name},\nopen: {what is missing | nothing}; next: {next step | rest}.\n{instructor}',
  ),
  reason: 'behind',
  about: 'other' as const,
  activityId: null,
  recipients: enrolmentIds.map((enrolmentId) => ({ enrolmentId, plan: null })),
  ...over,
});
const send = async (input: SendInput) => {
  const sent = await sendMessages(small.course.instructor, 'NAV', [input]);
  await workOff(small.test.db);
  return sent;
};
/** The pause before the next try is over. */
const dueNow = () =>
  small.test.db.orm
    .update(jobs)
    .set({ runAt: sql`clock_timestamp()` })
    .where(eq(jobs.state, 'queued'));
const step = { activityId: null, title: 'Fixing in four pages', minutes: 12, on: '2026-10-29', why: '' };

describe('sending', () => {
  it('gives each their own text, in the application and as a real e-mail', async () => {
    const sent = await send(letter(await ids('s1', 's3')));
    expect(sent).toMatchObject({ recipients: 2, again: false });
    const view = await messageView(small.course.instructor, 'NAV', sent.messageId);
    const bo = view.copies.find((c) => c.name === 'Bo Li')!;
    const lucja = view.copies.find((c) => c.name === 'Łucja Wójcik')!;
    expect(bo).toMatchObject({ state: 'sent', kept: true, subject: 'About Navigation' });
    expect(docText(lucja.doc)).toBe('Hello Łucja,\nopen: nothing; next: rest.\nInes Calloway');

    const file = await mailFile(small.course.instructor, lucja.recipientId);
    expect(file.name).toMatch(/^NAV-message-\d+\.eml$/);
    // Two independent readers of RFC 5322.
    const parsed = await simpleParser(file.bytes);
    expect(parsed.subject).toBe('About Navigation');
    expect(parsed.text).toContain('Hello Łucja,\nopen: nothing');
    expect(parsed.from?.value[0]?.name).toBe('Ines Calloway (ines@example.org), NAV');
    expect(parsed.messageId).toContain(String(lucja.recipientId));
    const other = await new PostalMime().parse(file.bytes);
    expect(other.to?.[0]).toMatchObject({ address: 'lucja@students.example', name: 'Łucja Wójcik' });
    expect(other.subject).toBe('About Navigation');
  });

  it('never sends the same composition twice: double click, and again later', async () => {
    const before = kept().length;
    const input = letter(await ids('s1', 's3'));
    const both = await Promise.all([
      sendMessages(small.course.instructor, 'NAV', [input]),
      sendMessages(small.course.instructor, 'NAV', [input]),
    ]);
    await workOff(small.test.db);
    const later = await send(input);
    expect(new Set([...both, later].map((s) => s.messageId)).size).toBe(1);
    expect([...both, later].filter((s) => !s.again)).toHaveLength(1);
    const copies = await small.test.db.orm
      .select()
      .from(recipients)
      .where(eq(recipients.messageId, later.messageId));
    expect(copies).toHaveLength(2);
    expect(kept().length).toBe(before + 2);
  });

  it('marks the student as answered, and stands in the brief with its reason', async () => {
    const [omer] = await ids('s2');
    expect((await roundsView(small.course.instructor, 'NAV', { filter: 'all' })).rows[0]!.enrolmentId).toBe(
      omer,
    );
    await send(letter([omer!]));
    expect(
      (await roundsView(small.course.instructor, 'NAV', { filter: 'all' })).rows.map((r) => r.enrolmentId),
    ).not.toContain(omer);
    const brief = (await briefView(small.course.instructor, 'NAV', omer!)).brief;
    expect(brief.sent[0]).toMatchObject({ reason: 'behind', by: 'Ines Calloway', readAt: null });
  });
});

describe('what does not arrive', () => {
  it('is shown with the server’s reason, and arrives at a mended address', async () => {
    const [omer] = await ids('s2');
    const sent = await send(letter([omer!]));
    const failed = (await messageView(small.course.instructor, 'NAV', sent.messageId)).copies[0]!;
    expect(failed).toMatchObject({ state: 'failed', attempts: 1 });
    expect(failed.error).toContain('This mailbox does not exist');
    expect((await courseMessages(small.course.instructor, 'NAV')).rows[0]).toMatchObject({ failed: 1 });

    await expect(retryMail(small.course.instructor, 'NAV', failed.recipientId, 'no address')).rejects.toThrow(
      'not an e-mail address',
    );
    await retryMail(small.course.instructor, 'NAV', failed.recipientId, 'omer@students.example');
    await workOff(small.test.db);
    const mended = (await messageView(small.course.instructor, 'NAV', sent.messageId)).copies[0]!;
    expect(mended).toMatchObject({ state: 'sent', attempts: 2, email: 'omer@students.example' });
    expect(
      (await composeView(small.course.instructor, 'NAV', [{ enrolmentId: omer!, ...pickedFor('x') }]))
        .recipients[0]!.email,
    ).toBe('omer@students.example');
    await expect(
      retryMail(small.course.instructor, 'NAV', failed.recipientId, 'omer@students.example'),
    ).rejects.toThrow('has arrived');
  });
  it('says so where there is no address, and the message is there all the same', async () => {
    const ida = await small.course.student('s4');
    const sent = await send(letter([ida.enrolmentId]));
    expect((await messageView(small.course.instructor, 'NAV', sent.messageId)).copies[0]!.state).toBe(
      'no address',
    );
    const home = await studentHome(ida.viewer);
    expect(home.courses[0]!.messages[0]!.subject).toBe('About Navigation');
  });
  it('fails clearly where no mail server answers, and can be tried again', async () => {
    const url = process.env.SMTP_URL;
    process.env.SMTP_URL = 'smtp://127.0.0.1:9';
    rereadConfig();
    const sent = await send(letter(await ids('s1')));
    const look = async () => (await messageView(small.course.instructor, 'NAV', sent.messageId)).copies[0]!;
    expect(await look()).toMatchObject({
      state: 'queued',
      attempts: 1,
      error: 'The mail server could not be reached. It is tried again soon.',
    });
    for (let i = 1; i < TRIES.mail.most; i++) {
      await dueNow();
      await workOff(small.test.db);
    }
    const copy = await look();
    expect(copy).toMatchObject({
      state: 'failed',
      attempts: TRIES.mail.most,
      error: `The mail server could not be reached. It was tried ${TRIES.mail.most} times.`,
    });
    process.env.SMTP_URL = url;
    rereadConfig();
    await retryMail(small.course.instructor, 'NAV', copy.recipientId, copy.email!);
    await workOff(small.test.db);
    expect((await messageView(small.course.instructor, 'NAV', sent.messageId)).copies[0]!.state).toBe('sent');
  });
});

describe('a mail server that asks to wait', () => {
  it('gets the mail later, and only those copies that it did not take', async () => {
    const url = process.env.SMTP_URL;
    let busy = true;
    const taken: string[] = [];
    const server = new SMTPServer({
      disabledCommands: ['AUTH', 'STARTTLS'],
      onRcptTo: ({ address }, _, done) =>
        busy && address.startsWith('bo@')
          ? done(Object.assign(new Error('Greylisted, come back later'), { responseCode: 450 }))
          : (taken.push(address), done()),
      onData: (stream, _, done) => void stream.resume().on('end', () => done()),
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
    process.env.SMTP_URL = `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
    process.env.LANTERN_MAIL_STANDIN = 'no';
    rereadConfig();
    const sent = await send(letter(await ids('s3', 's1')));
    const states = async () =>
      Object.fromEntries(
        (await messageView(small.course.instructor, 'NAV', sent.messageId)).copies.map((c) => [
          c.name,
          [c.state, c.attempts, c.error],
        ]),
      );
    expect(await states()).toMatchObject({
      'Łucja Wójcik': ['sent', 1, null],
      'Bo Li': [
        'queued',
        1,
        'The mail server asks to wait: 450 Greylisted, come back later. It is tried again soon.',
      ],
    });
    busy = false;
    await dueNow();
    await workOff(small.test.db);
    expect(await states()).toMatchObject({ 'Łucja Wójcik': ['sent', 1, null], 'Bo Li': ['sent', 2, null] });
    expect(taken.sort()).toEqual(['bo@students.example', 'lucja@students.example']);
    process.env.SMTP_URL = url;
    process.env.LANTERN_MAIL_STANDIN = 'yes';
    rereadConfig();
    server.close();
  });
});

describe('a database that fails while a copy goes out', () => {
  it('is told again what became of it, without a restart and without a second e-mail', async () => {
    const { orm } = small.test.db;
    const url = process.env.SMTP_URL;
    let taken = 0;
    const server = new SMTPServer({
      disabledCommands: ['AUTH', 'STARTTLS'],
      onData: (stream, _, done) => {
        taken++;
        // What became of the copy cannot be taken down.
        const fail = () => orm.execute(sql`alter table recipients rename column sent_at to away`);
        stream.resume().on('end', () => void fail().then(() => done()));
      },
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
    process.env.SMTP_URL = `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
    process.env.LANTERN_MAIL_STANDIN = 'no';
    rereadConfig();
    const { messageId } = await send(letter(await ids('s1')));
    expect(taken).toBe(1);
    await orm.execute(sql`alter table recipients rename column away to sent_at`);
    const state = async () => (await messageView(small.course.instructor, 'NAV', messageId)).copies[0]!.state;
    expect(await state()).toBe('sending');
    await dueNow();
    await workOff(small.test.db);
    expect([await state(), taken]).toEqual(['sent', 1]);
    process.env.SMTP_URL = url;
    process.env.LANTERN_MAIL_STANDIN = 'yes';
    rereadConfig();
    server.close();
  });
});

describe('the messages of a course', () => {
  it('come a page at a time, the newest first, with what became of all of them', async () => {
    const [s1] = await ids('s1');
    const sent: number[] = [];
    for (let i = 0; i < MESSAGES_A_PAGE + 1; i++)
      sent.push((await sendMessages(small.course.instructor, 'NAV', [letter([s1!])])).messageId);
    await workOff(small.test.db);
    const page = (before?: number) => courseMessages(small.course.instructor, 'NAV', before);
    const first = await page();
    expect(first).toMatchObject({ isOlder: false, before: first.rows.at(-1)!.id });
    expect(first.rows.map((r) => r.id)).toEqual(sent.toReversed().slice(0, MESSAGES_A_PAGE));
    expect(first.rows[0]).toMatchObject({ subject: 'About Navigation', recipients: 1, read: 0, waiting: 0 });
    const all = [...first.rows];
    for (let next = first; next.before != null;) {
      next = await page(next.before);
      expect(next).toMatchObject({ isOlder: true, all: first.all });
      all.push(...next.rows);
    }
    expect(all).toHaveLength(first.all.messages);
    expect(all.reduce((sum, m) => sum + m.failed, 0)).toBe(first.all.failed);
    expect(all.reduce((sum, m) => sum + m.recipients - m.read, 0)).toBe(first.all.unread);
  });
});

describe('a stop in the middle of sending', () => {
  it('delivers once, whether the mail server had it already or not', async () => {
    const sent = await send(letter(await ids('s1', 's3')));
    const before = kept().sort();
    // As a kill leaves it: one had been accepted, of the other nothing had been said yet.
    await small.test.db.orm
      .update(recipients)
      .set({ mailState: 'sending', sentAt: null })
      .where(eq(recipients.messageId, sent.messageId));
    const [first] = await small.test.db.orm
      .select()
      .from(recipients)
      .where(eq(recipients.messageId, sent.messageId));
    const [message] = await small.test.db.orm.select().from(messages).where(eq(messages.id, sent.messageId));
    const { unlinkSync } = await import('node:fs');
    unlinkSync(join(folder(), `${first!.id}.${message!.key}@ready-lantern.example.eml`));
    await queueUnsent(small.test.db);
    await workOff(small.test.db);
    expect(
      (await messageView(small.course.instructor, 'NAV', sent.messageId)).copies.map((c) => c.state),
    ).toEqual(['sent', 'sent']);
    expect(kept().sort()).toEqual(before);
  });
  it('the stand-in keeps one of two with the same id', async () => {
    const sent = await send(letter(await ids('s1')));
    const before = kept().length;
    await small.test.db.orm
      .update(recipients)
      .set({ mailState: 'queued' })
      .where(eq(recipients.messageId, sent.messageId));
    await workOff(small.test.db);
    expect(kept().length).toBe(before);
  });
});

describe('refusals', () => {
  const refused = (input: SendInput) => sendMessages(small.course.instructor, 'NAV', [input]);
  it.each<[string, Partial<SendInput>, RegExp]>([
    ['nobody', { recipients: [] }, /nobody to write to/],
    [
      'an unknown field',
      {
        doc: {
          type: 'doc',
          content: [
            {
              type: 'paragraph',
              // As a page of another version could send it.
              content: [{ type: 'field', attrs: { name: 'nickname' as 'first name', fallback: null } }],
            },
          ],
        },
      },
      /There is no merge field “nickname”/,
    ],
    [
      'a field that is empty and has no fallback',
      { doc: docOf('{what is missing}') },
      /“what is missing” is empty for Łucja Wójcik/,
    ],
    ['an empty subject', { subject: ' ' }, /subject is empty/],
    ['a subject of two lines', { subject: 'a\nBcc: x@y' }, /one line/],
    ['an empty message', { doc: docOf('\n ') }, /message is empty/],
    ['a message of a megabyte', { doc: docOf('x'.repeat(1_000_000)) }, /longer than 20,000 characters/],
  ])('%s', async (_name, over, reason) => {
    const before = (await small.test.db.orm.select().from(messages)).length;
    const input = letter(await ids('s1'), over);
    await expect(refused(input)).rejects.toThrow(reason);
    expect((await small.test.db.orm.select().from(messages)).length).toBe(before);
  });
  it('a plan in the past, without steps, or with another course’s work', async () => {
    const [lucja] = await ids('s1');
    const withPlan = (plan: SendInput['recipients'][number]['plan']) =>
      refused(letter([], { recipients: [{ enrolmentId: lucja!, plan }] }));
    await expect(withPlan([{ ...step, on: '2026-10-27' }])).rejects.toThrow(
      'In the plan for Łucja Wójcik, “Fixing in four pages” is for 2026-10-27: nothing is due on the day it is sent',
    );
    await expect(withPlan([])).rejects.toThrow('has no step');
    await expect(withPlan([{ ...step, activityId: 99_999 }])).rejects.toThrow(
      'not an activity of this course',
    );
  });
  it('somebody who left, who is not in the course, or twice', async () => {
    await expect(refused(letter(await ids('s5')))).rejects.toThrow('Gone Away is no longer active');
    await expect(refused(letter([999_999]))).rejects.toThrow('not in this course');
    const [a] = await ids('s1');
    await expect(refused(letter([a!, a!]))).rejects.toThrow('twice');
  });
  it('another instructor, and a student', async () => {
    const { viewer } = await small.course.student('s1');
    const input = letter(await ids('s1'));
    await expect(sendMessages(small.course.stranger, 'NAV', [input])).rejects.toThrow('no such course');
    await expect(sendMessages(viewer, 'NAV', [input])).rejects.toThrow('may not');
    await expect(composeView(small.course.stranger, 'NAV', [])).rejects.toThrow('no such course');
    await expect(courseMessages(viewer, 'NAV')).rejects.toThrow('may not');
  });
});

describe('several texts at once', () => {
  it('go each to their own, with score and assignment, and only once; all of them or none', async () => {
    const [ida, lucja] = await ids('s4', 's1');
    const [quiz] = await small.test.db.orm
      .select({ id: activities.id })
      .from(activities)
      .where(eq(activities.title, 'Tides quiz'));
    const key = randomUUID();
    const texts = [
      letter([ida!], {
        key,
        about: 'improved',
        subject: 'Well done',
        doc: docOf('Your standing: {standing}.'),
      }),
      letter([lucja!], {
        key: `${key}.1`,
        about: 'low score',
        activityId: quiz!.id,
        subject: 'Your result in {assignment}',
        doc: docOf('You scored {score} in {assignment}.'),
      }),
    ];
    const me = small.course.instructor;
    await expect(sendMessages(me, 'NAV', [texts[0]!, { ...texts[1]!, activityId: 999_999 }])).rejects.toThrow(
      'no such assignment',
    );
    const sent = await sendMessages(me, 'NAV', texts);
    expect(sent).toMatchObject({ messages: 2, recipients: 2, again: false });
    expect(await sendMessages(me, 'NAV', texts)).toEqual({ ...sent, again: true });
    await workOff(small.test.db);
    const view = await messageView(me, 'NAV', sent.messageId + 1);
    expect(view.copies).toHaveLength(1);
    expect(view.copies[0]!.subject).toBe('Your result in Tides quiz');
    expect(docText(view.copies[0]!.doc)).toMatch(/^You scored 9 of 10 in Tides quiz\.$/);
  });
});

describe('a text that is more than plain', () => {
  const rich = (shownIf: Selection | null): MessageDoc => ({
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: 'Hello ' },
          { type: 'field', attrs: { name: 'first name', fallback: 'there' } },
          { type: 'text', text: ', read <this>', marks: [{ type: 'bold' }] },
        ],
      },
      { type: 'paragraph', attrs: { shownIf }, content: [{ type: 'text', text: 'Something is open.' }] },
      {
        type: 'bulletList',
        content: [
          {
            type: 'listItem',
            content: [
              {
                type: 'paragraph',
                content: [
                  {
                    type: 'text',
                    text: 'the plan',
                    marks: [{ type: 'link', attrs: { href: 'https://x.example/a?b=1&c=2' } }],
                  },
                ],
              },
            ],
          },
        ],
      },
    ],
  });
  const MISSING: Selection = { all: [{ measure: 'missing', is: '>', value: 0 }] };

  it('goes as text and as HTML, and shows a paragraph only where its condition holds', async () => {
    const sent = await send(letter(await ids('s1', 's2', 's3'), { doc: rich(MISSING) }));
    const view = await messageView(small.course.instructor, 'NAV', sent.messageId);
    const shown = view.copies.filter((c) => docText(c.doc).includes('Something is open.'));
    // Of the small course only Ömer has something missing.
    expect(shown.map((c) => c.name)).toEqual(['Ömer Yıldız']);
    const bo = view.copies.find((c) => c.name === 'Bo Li')!;
    const { bytes } = await mailFile(small.course.instructor, bo.recipientId);
    const parsed = await simpleParser(bytes);
    expect(parsed.text).toContain('Hello Bo, read <this>\n\n- the plan (https://x.example/a?b=1&c=2)');
    expect(parsed.html).toContain('<p>Hello Bo<strong>, read &lt;this&gt;</strong></p>');
    expect(parsed.html).toContain('<a href="https://x.example/a?b=1&amp;c=2">the plan</a>');
    const other = await PostalMime.parse(bytes);
    expect(other.html?.trim()).toBe((parsed.html as string).trim());
    expect(other.text?.trim()).toBe(parsed.text?.trim());
  });

  it('is another one for one recipient alone', async () => {
    const [lucja, bo] = await ids('s1', 's3');
    const own = { subject: 'For you, Bo', doc: docOf('Come by on Friday.') };
    const sent = await send(
      letter([], {
        recipients: [
          { enrolmentId: lucja!, plan: null },
          { enrolmentId: bo!, plan: null, own },
        ],
      }),
    );
    const { copies } = await messageView(small.course.instructor, 'NAV', sent.messageId);
    expect(copies.map((c) => [c.subject, docText(c.doc).split('\n')[0]])).toEqual([
      ['For you, Bo', 'Come by on Friday.'],
      ['About Navigation', 'Hello Łucja,'],
    ]);
  });

  it('is refused where it depends on what is not there, or shows nothing', async () => {
    const gone: Selection = { all: [{ measure: 'score:999999', is: '<', value: 1 }] };
    await expect(send(letter(await ids('s1'), { doc: rich(gone) }))).rejects.toThrow(
      'A paragraph depends on what is not there: It asks for an assignment',
    );
    const nothing: MessageDoc = {
      type: 'doc',
      content: [
        { type: 'paragraph', attrs: { shownIf: MISSING }, content: [{ type: 'text', text: 'Open.' }] },
      ],
    };
    await expect(send(letter(await ids('s1'), { doc: nothing }))).rejects.toThrow(
      'Nothing of the message is shown to Łucja Wójcik.',
    );
    const script = JSON.parse(
      JSON.stringify(rich(null)).replace('https://x.example/a?b=1&c=2', 'javascript:alert(1)'),
    ) as MessageDoc;
    await expect(send(letter(await ids('s1'), { doc: script }))).rejects.toThrow('A link must begin with');
  });
});

describe('a message that has not gone', () => {
  const me = () => small.course.instructor;
  const TOMORROW = Date.parse('2026-10-29T08:00:00Z');
  const later = (input: SendInput) => sendMessages(me(), 'NAV', [input], TOMORROW);

  it('is read by nobody, waits, and goes when its time has come', async () => {
    const bo = await small.course.student('s3');
    const before = (await studentHome(bo.viewer)).courses[0]!;
    const sent = await later(letter([], { recipients: [{ enrolmentId: bo.enrolmentId, plan: [step] }] }));
    expect(sent.goesAt).toBe(TOMORROW);
    await workOff(small.test.db);
    const home = async () => (await studentHome(bo.viewer)).courses[0]!;
    expect((await home()).messages).toEqual(before.messages);
    expect((await home()).plans).toHaveLength(before.plans.length);
    expect(await messageView(me(), 'NAV', sent.messageId)).toMatchObject({ goesAt: TOMORROW, isOwn: true });
    const [copy] = (await messageView(me(), 'NAV', sent.messageId)).copies;
    await expect(markRead(bo.viewer, copy!.recipientId)).rejects.toThrow();
    await dueNow();
    await workOff(small.test.db);
    expect((await home()).messages).toHaveLength(before.messages.length + 1);
    expect((await home()).plans).toHaveLength(before.plans.length + 1);
    expect(await messageView(me(), 'NAV', sent.messageId)).toMatchObject({ goesAt: null });
    await expect(callBack(me(), 'NAV', sent.messageId)).rejects.toThrow('It has gone by now');
  });

  it('does not go early because a copy of it gets an address', async () => {
    const { orm } = small.test.db;
    const ida = await small.course.student('s4');
    const sent = await later(letter([ida.enrolmentId]));
    const [copy] = (await messageView(me(), 'NAV', sent.messageId)).copies;
    expect(copy!.state).toBe('no address');
    await retryMail(me(), 'NAV', copy!.recipientId, 'ida@students.example');
    await workOff(small.test.db);
    expect(await messageView(me(), 'NAV', sent.messageId)).toMatchObject({ goesAt: TOMORROW });
    await dueNow();
    await workOff(small.test.db);
    expect((await messageView(me(), 'NAV', sent.messageId)).copies[0]!.state).toBe('sent');
    await orm.update(persons).set({ email: null }).where(eq(persons.externalId, 's4'));
  });

  it('is called back as a whole, and who was written to is selected again', async () => {
    const [lucja, bo] = await ids('s1', 's3');
    const key = randomUUID();
    const mailed = kept().length;
    const sent = await sendMessages(
      me(),
      'NAV',
      [letter([lucja!], { key, reason: 'first' }), letter([bo!], { key: `${key}.1`, reason: 'second' })],
      TOMORROW,
    );
    const all = (await small.test.db.orm.select().from(messages)).length;
    await expect(callBack(small.course.stranger, 'NAV', sent.messageId)).rejects.toThrow();
    expect(await callBack(me(), 'NAV', sent.messageId + 1)).toBe(2);
    expect(await small.test.db.orm.select().from(messages)).toHaveLength(all - 2);
    const again = await tray(me(), { id: small.course.courseId });
    expect(again.map((t) => [t.enrolmentId, t.reason]).sort()).toEqual(
      [
        [lucja, 'first'],
        [bo, 'second'],
      ].sort(),
    );
    await dueNow();
    await workOff(small.test.db);
    expect(kept()).toHaveLength(mailed);
    await expect(callBack(me(), 'NAV', sent.messageId)).rejects.toThrow('no such message');
    await small.test.db.orm.delete(jobs);
  });

  it('leaves out who has left the course by then', async () => {
    const { orm } = small.test.db;
    const ida = await small.course.student('s4');
    const [lucja] = await ids('s1');
    const sent = await later(letter([lucja!, ida.enrolmentId]));
    await orm.update(enrolments).set({ status: 'withdrawn' }).where(eq(enrolments.id, ida.enrolmentId));
    await dueNow();
    await workOff(small.test.db);
    await orm.update(enrolments).set({ status: 'active' }).where(eq(enrolments.id, ida.enrolmentId));
    const { copies } = await messageView(me(), 'NAV', sent.messageId);
    expect(copies.map((c) => [c.name, c.state])).toEqual([
      ['Ida Wren', 'left out'],
      ['Łucja Wójcik', 'sent'],
    ]);
    expect((await studentHome(ida.viewer)).courses[0]!.messages.map((m) => m.recipientId)).not.toContain(
      copies[0]!.recipientId,
    );
  });

  it('waits for half a minute where it goes now, and for a time to come only', async () => {
    process.env.LANTERN_CALL_BACK_S = '30';
    rereadConfig();
    const sent = await sendMessages(me(), 'NAV', [letter(await ids('s1'))]);
    process.env.LANTERN_CALL_BACK_S = '0';
    rereadConfig();
    expect(sent.goesAt).toBe(Date.parse('2026-10-28T12:00:30Z'));
    expect(await callBack(me(), 'NAV', sent.messageId)).toBe(1);
    const past = Date.parse('2026-10-28T11:00:00Z');
    await expect(sendMessages(me(), 'NAV', [letter(await ids('s1'))], past)).rejects.toThrow('has passed');
    const far = Date.parse('2027-10-28T11:00:00Z');
    await expect(sendMessages(me(), 'NAV', [letter(await ids('s1'))], far)).rejects.toThrow(
      'at most 120 days',
    );
  });
});

describe('before sending', () => {
  it('who was written to about the same, and who wants no e-mail, is said', async () => {
    const me = small.course.instructor;
    const [lucja, bo] = await ids('s1', 's3');
    await send(letter([lucja!], { about: 'improved' }));
    const { orm } = small.test.db;
    const [person] = await orm
      .select({ id: enrolments.personId })
      .from(enrolments)
      .where(eq(enrolments.id, bo!));
    await orm.update(persons).set({ mailCopies: false }).where(eq(persons.id, person!.id));
    const picks = [lucja!, bo!].map((enrolmentId) => ({ enrolmentId, ...pickedFor('x', 'improved') }));
    const view = await composeView(me, 'NAV', picks);
    expect(view.recipients.map((r) => [r.name, r.lastSame != null, r.mailCopies])).toEqual([
      ['Bo Li', false, false],
      ['Łucja Wójcik', true, true],
    ]);
    // About something else nobody was written to.
    const other = await composeView(me, 'NAV', [
      { enrolmentId: lucja!, ...pickedFor('x', 'late assignment') },
    ]);
    expect(other.recipients[0]!.lastSame).toBeNull();
    const mailed = kept().length;
    const sent = await send(letter([bo!]));
    expect((await messageView(me, 'NAV', sent.messageId)).copies[0]!.state).toBe('turned off');
    expect(kept()).toHaveLength(mailed);
    await orm.update(persons).set({ mailCopies: true }).where(eq(persons.id, person!.id));
  });
});

describe('templates', () => {
  const form = {
    id: null,
    name: 'Come by',
    about: 'behind' as const,
    shared: false,
    subject: 'Come by',
    doc: docOf('Hello {first name}.'),
  };
  it('are one’s own or of the course, and say what in them is gone', async () => {
    const me = small.course.instructor;
    const [lucja] = await ids('s1');
    const listed = async () =>
      (await composeView(me, 'NAV', [{ enrolmentId: lucja!, ...pickedFor('x') }])).templates;
    const id = await saveTemplate(me, 'NAV', form);
    await expect(saveTemplate(me, 'NAV', form)).rejects.toThrow(
      'You have a template called “Come by” already.',
    );
    expect(await listed()).toMatchObject([{ id, own: true, shared: false, fault: null, doc: form.doc }]);
    await small.test.db.orm
      .update(templates)
      .set({ doc: JSON.parse(JSON.stringify(form.doc).replace('first name', 'nickname')) as unknown });
    expect(await listed()).toMatchObject([{ id, doc: null, fault: expect.stringContaining('“nickname”') }]);
    await expect(removeTemplate(small.course.stranger, 'NAV', id)).rejects.toThrow();
    await removeTemplate(me, 'NAV', id);
    expect(await listed()).toEqual([]);
  });
});

describe('plans', () => {
  it('are proposed from what is missing, with resources of weak outcomes', async () => {
    const [omer] = await ids('s2');
    const { recipients: people } = await composeView(small.course.instructor, 'NAV', [
      { enrolmentId: omer!, ...pickedFor('x') },
    ]);
    const titles = people[0]!.plan.map((s) => s.title);
    expect(titles).toEqual(expect.arrayContaining(['Chart exercise 2', 'Chart exercise 3', 'Tides quiz']));
    expect(people[0]!.plan.every((s) => s.on > '2026-10-28')).toBe(true);
    // Without a reason of its own the weightiest flag says what it is about.
    expect(people[0]!.picked.about).toBe('not seen');
  });
  it('reach the student, who ticks off and takes back; the instructor sees it', async () => {
    const bo = await small.course.student('s3');
    await send(
      letter([], {
        recipients: [
          { enrolmentId: bo.enrolmentId, plan: [step, { ...step, title: 'Second', on: '2026-10-30' }] },
        ],
      }),
    );
    const home = await studentHome(bo.viewer);
    const [plan] = home.courses[0]!.plans;
    expect(plan!.steps.map((s) => s.title)).toEqual(['Fixing in four pages', 'Second']);
    expect(docText(home.courses[0]!.messages[0]!.doc)).toContain('next: Fixing in four pages.');
    const ticked = async () =>
      (await coursePlans(small.course.instructor, 'NAV'))[0]!.plan.steps.filter((s) => s.doneAt != null)
        .length;
    await tickStep(bo.viewer, plan!.steps[0]!.id, true);
    expect(await ticked()).toBe(1);
    await tickStep(bo.viewer, plan!.steps[0]!.id, false);
    expect(await ticked()).toBe(0);

    const lucja = await small.course.student('s1');
    await expect(tickStep(lucja.viewer, plan!.steps[0]!.id, true)).rejects.toThrow(
      'no such step in your plans',
    );
    await expect(tickStep(small.course.instructor, plan!.steps[0]!.id, true)).rejects.toThrow('may not');
  });
});

describe('a student', () => {
  it('sees their own and nothing of the class', async () => {
    const lucja = await small.course.student('s1');
    const home = await studentHome(lucja.viewer);
    expect(home.givenName).toBe('Łucja');
    expect(JSON.stringify(home)).not.toMatch(/Yıldız|Ömer|Bo Li/);
    expect(home.courses[0]!.weeks.every((w) => w.classMedianMinutes == null && w.classStanding == null)).toBe(
      true,
    );
    expect(home.courses[0]!.standing).toBeCloseTo(0.6 * ((100 * 51) / 60) + 0.4 * 90, 9);
  });
  it('reads their own messages once, and nobody else’s', async () => {
    const lucja = await small.course.student('s1');
    const bo = await small.course.student('s3');
    const [message] = (await studentHome(lucja.viewer)).courses[0]!.messages;
    await expect(markRead(bo.viewer, message!.recipientId)).rejects.toThrow('no such message');
    await expect(mailFile(bo.viewer, message!.recipientId)).rejects.toThrow('no such message');
    await expect(mailFile(small.course.stranger, message!.recipientId)).rejects.toThrow('no such message');
    expect((await mailFile(lucja.viewer, message!.recipientId)).bytes.length).toBeGreaterThan(100);
    await markRead(lucja.viewer, message!.recipientId);
    const first = (await studentHome(lucja.viewer)).courses[0]!.messages[0]!.readAt;
    expect(first).not.toBeNull();
  });
  it('is told what is open: missing and soon due', async () => {
    const omer = await small.course.student('s2');
    const open = (await studentHome(omer.viewer)).courses[0]!.open;
    expect(open.map((w) => [w.title, w.status])).toEqual([
      ['Chart exercise 2', 'missing'],
      ['Chart exercise 3', 'missing'],
      ['Tides quiz', 'missing'],
    ]);
  });
  it('has no home if they teach', async () => {
    await expect(studentHome(small.course.instructor)).rejects.toThrow('may not');
  });
});
