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
import { jobs, messages, recipients } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { briefView } from '../look/brief';
import { composeView, sendMessage } from './compose';
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
  body: 'Hello {first name},\nopen: {what is missing | nothing}; next: {next step | rest}.\n{instructor}',
  reason: 'behind',
  recipients: enrolmentIds.map((enrolmentId) => ({ enrolmentId, plan: null })),
  ...over,
});
const send = async (input: SendInput) => {
  const sent = await sendMessage(small.course.instructor, 'NAV', input);
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
    expect(lucja.body).toBe('Hello Łucja,\nopen: nothing; next: Heights on film.\nInes Calloway');

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
      sendMessage(small.course.instructor, 'NAV', input),
      sendMessage(small.course.instructor, 'NAV', input),
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
    const brief = await briefView(small.course.instructor, 'NAV', omer!);
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
    expect((await composeView(small.course.instructor, 'NAV', [omer!])).recipients[0]!.email).toBe(
      'omer@students.example',
    );
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
      sent.push((await sendMessage(small.course.instructor, 'NAV', letter([s1!]))).messageId);
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
  const refused = (input: SendInput) => sendMessage(small.course.instructor, 'NAV', input);
  it.each<[string, Partial<SendInput>, RegExp]>([
    ['nobody', { recipients: [] }, /nobody to write to/],
    ['an unknown field', { body: 'x\n{nickname}' }, /Message, line 2: There is no merge field “nickname”/],
    [
      'a field that is empty and has no fallback',
      { body: '{what is missing}' },
      /“what is missing” is empty for Łucja Wójcik/,
    ],
    ['an empty subject', { subject: ' ' }, /subject is empty/],
    ['a subject of two lines', { subject: 'a\nBcc: x@y' }, /one line/],
    ['an empty message', { body: '\n ' }, /message is empty/],
    ['a message of a megabyte', { body: 'x'.repeat(1_000_000) }, /longer than 20,000 characters/],
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
      'In the plan for Łucja Wójcik, “Fixing in four pages” lies in the past',
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
    await expect(sendMessage(small.course.stranger, 'NAV', input)).rejects.toThrow('no such course');
    await expect(sendMessage(viewer, 'NAV', input)).rejects.toThrow('may not');
    await expect(composeView(small.course.stranger, 'NAV', [])).rejects.toThrow('no such course');
    await expect(courseMessages(viewer, 'NAV')).rejects.toThrow('may not');
  });
});

describe('plans', () => {
  it('are proposed from what is missing, with resources of weak outcomes', async () => {
    const [omer] = await ids('s2');
    const { recipients: people, sharedReason } = await composeView(small.course.instructor, 'NAV', [omer!]);
    const titles = people[0]!.plan.map((s) => s.title);
    expect(titles).toEqual(expect.arrayContaining(['Chart exercise 2', 'Chart exercise 3', 'Tides quiz']));
    expect(people[0]!.plan.every((s) => s.on > '2026-10-28')).toBe(true);
    expect(sharedReason).toBe('not seen');
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
    expect(home.courses[0]!.messages[0]!.body).toContain('next: Fixing in four pages.');
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
