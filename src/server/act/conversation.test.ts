import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createConnection } from 'node:net';
import { eq } from 'drizzle-orm';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { join } from 'node:path';
import { withSmallCourse } from '../../../tests/support/course';
import { docOf } from '@/core/messages/doc';
import { messageIdOf } from '@/core/messages/messageId';
import { letters, messages, persons, recipients, replies } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { rereadConfig } from '../base/config';
import { briefView } from '../look/brief';
import { studentHome } from '../look/student';
import { addressOf } from '../mail/addresses';
import { startMailIn, type MailIn } from '../mail/listener';
import { workOff } from '../work';
import { sendMessages } from './compose';
import { conversations, conversationView } from '../look/conversation';
import { answerMessage, keptAnswer, readConversation } from './conversation';
import { nowDate } from '../base/clock';
import { mailFile, messageView, retryMail } from './messages';

const small = withSmallCourse();
const me = () => small.course.instructor;
let out: MailStandIn;
let mailIn: MailIn;
const DOMAIN = 'lantern.school.example';

beforeAll(async () => {
  out = await startMailStandIn(join(small.test.folder, 'mail'));
  process.env.SMTP_URL = `smtp://127.0.0.1:${out.port}`;
  process.env.LANTERN_MAIL_STANDIN = 'yes';
  process.env.LANTERN_MAIL_IN_PORT = '0';
  process.env.LANTERN_MAIL_DOMAIN = DOMAIN;
  rereadConfig();
  mailIn = await startMailIn(small.test.db, { host: '127.0.0.1', port: 0 });
});
afterAll(async () => {
  await mailIn.close();
  await out.close();
  for (const name of ['SMTP_URL', 'LANTERN_MAIL_STANDIN', 'LANTERN_MAIL_IN_PORT', 'LANTERN_MAIL_DOMAIN'])
    delete process.env[name];
  rereadConfig();
});

/** Writes to a student. Returns the copy. */
async function write(student: string, subject = 'A word'): Promise<number> {
  const { enrolmentId } = await small.course.student(student);
  const { messageId } = await sendMessages(me(), 'NAV', [
    {
      key: randomUUID(),
      subject,
      doc: docOf('Shall we talk?'),
      reason: 'behind',
      about: 'other',
      activityId: null,
      recipients: [{ enrolmentId, plan: null }],
    },
  ]);
  await workOff(small.test.db);
  return (await messageView(me(), 'NAV', messageId)).copies[0]!.recipientId;
}
/** Delivers an e-mail as a mail server does, and waits until it was read. */
const deliver = async (
  to: string,
  mail: { from?: string; text?: string; headers?: Record<string, string>; raw?: string },
) => {
  const transport = createTransport({ host: '127.0.0.1', port: mailIn.port, ignoreTLS: true });
  const from = mail.from ?? 'bo@students.example';
  await transport.sendMail(
    mail.raw == null
      ? { from, to, subject: 'Re: A word', text: mail.text, headers: mail.headers }
      : { envelope: { from: '', to }, raw: mail.raw },
  );
  transport.close();
  await workOff(small.test.db, ['mail in']);
};
/** The Message-ID of a copy. */
const messageIdIn = async (copy: number): Promise<string> => {
  const [row] = await small.test.db.orm
    .select({ key: messages.key })
    .from(messages)
    .innerJoin(recipients, eq(recipients.messageId, messages.id))
    .where(eq(recipients.id, copy));
  return messageIdOf(copy, row!.key);
};
const unread = async () => (await conversations(me(), 'NAV')).reduce((n, c) => n + c.unread, 0);
const said = async (student: string) =>
  (await conversationView(me(), 'NAV', (await small.course.student(student)).enrolmentId)).said.filter(
    (s) => s.by === 'student',
  );

describe('an answer in the application', () => {
  it('is unread until somebody who teaches opens it, and is kept once', async () => {
    const copy = await write('s3');
    const bo = await small.course.student('s3');
    const form = { recipient: copy, key: randomUUID(), text: ' Yes, Friday. ' };
    await answerMessage(bo.viewer, form);
    await answerMessage(bo.viewer, form);
    const [own] = (await studentHome(bo.viewer)).courses[0]!.messages;
    expect(own!.answers).toMatchObject([{ body: 'Yes, Friday.', via: 'here' }]);
    expect(own!.readAt).not.toBeNull();
    expect(await unread()).toBe(1);
    expect((await conversations(me(), 'NAV'))[0]).toMatchObject({
      name: 'Bo Li',
      lastBy: 'student',
      last: 'Yes, Friday.',
    });
    expect(await said('s3')).toMatchObject([{ body: 'Yes, Friday.', isNew: true, otherAddress: null }]);
    // Looking at it, as a page does ahead of a click, changes nothing.
    expect(await unread()).toBe(1);
    await readConversation(me(), 'NAV', bo.enrolmentId);
    expect(await unread()).toBe(0);
  });
  it('is to a message of one’s own only, and read by those who teach the course only', async () => {
    const copy = await write('s3');
    const { viewer } = await small.course.student('s1');
    const form = { recipient: copy, key: randomUUID(), text: 'x' };
    await expect(answerMessage(viewer, form)).rejects.toThrow('no such message');
    await expect(answerMessage(me(), form)).rejects.toThrow();
    await expect(conversations(small.course.stranger, 'NAV')).rejects.toThrow();
    const { enrolmentId } = await small.course.student('s3');
    await expect(conversationView(small.course.stranger, 'NAV', enrolmentId)).rejects.toThrow();
    await expect(readConversation(small.course.stranger, 'NAV', enrolmentId)).rejects.toThrow();
  });
});

describe('an answer by e-mail', () => {
  it('goes to the address that the e-mail names, and reaches the thread once', async () => {
    const copy = await write('s3', 'By mail');
    const kept = await simpleParser((await mailFile(me(), copy)).bytes);
    const to = kept.replyTo!.value[0]!.address!;
    expect(to).toBe(addressOf('answer', copy));
    const before = (await said('s3')).length;
    const headers = { 'message-id': '<same@students.example>' };
    await deliver(to, {
      text: 'By e-mail, then.\n\nOn Wed, Ines Calloway wrote:\n> Shall we talk?',
      headers,
    });
    // A server that had no answer sends it again.
    await deliver(to.toUpperCase(), { text: 'By e-mail, then.', headers });
    const all = await said('s3');
    expect(all).toHaveLength(before + 1);
    expect(all.at(-1)).toMatchObject({
      body: 'By e-mail, then.',
      via: 'mail',
      otherAddress: null,
      automatic: false,
    });
  });
  it('from another address is marked as such', async () => {
    const copy = await write('s3');
    await deliver(addressOf('answer', copy)!, { from: 'somebody@else.example', text: 'It is me.' });
    expect((await said('s3')).at(-1)).toMatchObject({ otherAddress: 'somebody@else.example' });
  });
  it('of a machine is kept, waits for nobody, and is answered by nobody', async () => {
    const copy = await write('s3');
    await readConversation(me(), 'NAV', (await small.course.student('s3')).enrolmentId);
    for (let i = 0; i < 5; i++)
      await deliver(addressOf('answer', copy)!, {
        text: `I am away ${i}.`,
        headers: { 'auto-submitted': 'auto-replied' },
      });
    expect(await unread()).toBe(0);
    expect((await said('s3')).filter((s) => s.automatic)).toHaveLength(5);
    const mailed = await small.test.db.orm.select().from(recipients).where(eq(recipients.id, copy));
    await workOff(small.test.db);
    expect(await small.test.db.orm.select().from(recipients).where(eq(recipients.id, copy))).toEqual(mailed);
  });
  it('with a forged token is refused, with a word', async () => {
    const copy = await write('s3');
    const good = addressOf('answer', copy)!;
    const forged = good.replace(/.(?=@)/, (c) => (c === 'a' ? 'b' : 'a'));
    const before = (await small.test.db.orm.select().from(replies)).length;
    for (const to of [forged, 'ines@lantern.school.example', good.replace(DOMAIN, 'other.example')])
      await expect(deliver(to, { text: 'Hello' })).rejects.toThrow('550 5.1.1 There is no such address here');
    expect(await small.test.db.orm.select().from(replies)).toHaveLength(before);
  });
  it('of twenty megabytes is refused, whether it says its size or not, and nothing of it is held', async () => {
    const copy = await write('s3');
    const to = addressOf('answer', copy)!;
    await expect(deliver(to, { text: 'x'.repeat(20 * 1024 * 1024) })).rejects.toThrow('552');
    // By hand, without saying how large it will be.
    const socket = createConnection(mailIn.port, '127.0.0.1');
    const heard = async (line: string | null) => {
      const answer = once(socket, 'data') as Promise<[Buffer]>;
      if (line != null) socket.write(`${line}\r\n`);
      return (await answer)[0].toString();
    };
    await heard(null);
    await heard('HELO x');
    await heard('MAIL FROM:<bo@students.example>');
    await heard(`RCPT TO:<${to}>`);
    await heard('DATA');
    const line = `${'y'.repeat(70)}\r\n`.repeat(1000);
    for (let i = 0; i < 290; i++) if (!socket.write(line)) await once(socket, 'drain');
    expect(await heard('\r\n.')).toMatch(/^552 5\.3\.4 The message is too large/);
    socket.destroy();
    expect((await said('s3')).some((s) => s.body.includes('yyy'))).toBe(false);
  });
});

describe('an answer by e-mail that is no ordinary one', () => {
  const sayTo = async (raw: string) => {
    const copy = await write('s3');
    await deliver(addressOf('answer', copy)!, { raw: raw.replaceAll('\n', '\r\n') });
    return (await said('s3')).at(-1)!;
  };
  it('is marked unless the receiving server vouches for who sent it', async () => {
    const mail = 'From: bo@students.example\nMessage-ID: <v1@x>\n\nIt is me.\n';
    process.env.LANTERN_MAIL_VOUCHED_BY = 'mx.school.example';
    rereadConfig();
    const head = (server: string) =>
      `Authentication-Results: ${server}; dmarc=pass header.from=students.example\n`;
    expect(await sayTo(mail)).toMatchObject({ unverified: true, otherAddress: null });
    expect(await sayTo(head('mx.school.example') + mail.replace('v1', 'v2'))).toMatchObject({
      unverified: false,
    });
    expect(await sayTo(head('mx.evil.example') + mail.replace('v1', 'v3'))).toMatchObject({
      unverified: true,
    });
    delete process.env.LANTERN_MAIL_VOUCHED_BY;
    rereadConfig();
  });
  it('is kept as it came where it can’t be read, for those who teach', async () => {
    let mail = 'From: bo@students.example\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b0\n\n';
    for (let i = 0; i < 1000; i++) mail += `--b${i}\nContent-Type: multipart/mixed; boundary=b${i + 1}\n\n`;
    const kept = await sayTo(mail);
    expect(kept).toMatchObject({ isKept: true, isNew: true });
    const file = await keptAnswer(me(), kept.id);
    expect(file.bytes.toString()).toBe(mail.replaceAll('\n', '\r\n'));
    await expect(keptAnswer(small.course.stranger, kept.id)).rejects.toThrow('no such');
    await expect(keptAnswer((await small.course.student('s3')).viewer, kept.id)).rejects.toThrow('no such');
  });
  it('with a NUL or a Message-ID of 8 KB is taken without them', async () => {
    expect(await sayTo('From: bo@students.example\n\nYes\0!\n')).toMatchObject({ body: 'Yes!' });
    const long = `From: bo@students.example\nMessage-ID: <${'x'.repeat(8000)}@x>\n\nLong.\n`;
    expect(await sayTo(long)).toMatchObject({ body: 'Long.' });
  });
  it.each([
    ['From: bo@students.example\nFrom: ida@students.example\n\nWe.\n', 'more than one From'],
    ['From: bo@students.example, ida@students.example\n\nWe.\n', 'more than one address'],
    [`From: bo@students.example\nX: ${'x'.repeat(70_000)}\n\nHello.\n`, 'longer than 64 KB'],
  ])('that can’t ever be taken is refused for good (%#)', async (raw, why) => {
    await expect(sayTo(raw)).rejects.toThrow(new RegExp(`^[^]*554 5\\.6\\.0 .*${why}`));
  });
  it('is limited in number, and its sender is told once', async () => {
    const copy = await write('s1');
    const { enrolmentId } = await small.course.student('s1');
    await small.test.db.orm.insert(replies).values(
      Array.from({ length: 99 }, (_, i) => ({
        courseId: small.course.courseId,
        enrolmentId,
        body: 'x',
        via: 'mail' as const,
        key: `many ${i}`,
        at: nowDate(),
      })),
    );
    for (let i = 0; i < 4; i++)
      await deliver(addressOf('answer', copy)!, { from: 'lucja@students.example', text: `More ${i}.` });
    const { said: page, earlier } = await conversationView(me(), 'NAV', enrolmentId);
    expect(page.filter((s) => s.by === 'student' && s.body.startsWith('More'))).toHaveLength(1);
    // In pages, which go on where the one before ends.
    expect(page).toHaveLength(50);
    const before = await conversationView(me(), 'NAV', enrolmentId, earlier!);
    expect(before.isLatest).toBe(false);
    const told = await small.test.db.orm.select().from(letters).where(eq(letters.enrolmentId, enrolmentId));
    expect(told.map((l) => l.subject)).toEqual(['Your e-mail wasn’t delivered']);
    const { viewer } = await small.course.student('s1');
    await expect(answerMessage(viewer, { recipient: copy, key: randomUUID(), text: 'x' })).rejects.toThrow(
      '100 replies in one day',
    );
  });
});

describe('an e-mail that comes back', () => {
  // As RFC 3464 has it.
  const report = (action: string, of: string) =>
    [
      'From: MAILER-DAEMON@mx.example',
      'Subject: Undelivered',
      'Message-ID: <r@mx.example>',
      'Auto-Submitted: auto-replied',
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary=b',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'It could not be delivered.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mx.example',
      '',
      'Final-Recipient: rfc822; bo@students.example',
      `Action: ${action}`,
      'Status: 5.1.1',
      'Diagnostic-Code: smtp; 550 5.1.1 User unknown',
      '',
      '--b',
      'Content-Type: message/rfc822',
      '',
      'Subject: A word',
      `Message-ID: ${of}`,
      '',
      'Shall we talk?',
      '',
      '--b--',
      '',
    ].join('\r\n');

  it('marks the copy and the address, and the brief says so until the address is mended', async () => {
    const copy = await write('s3');
    const { enrolmentId } = await small.course.student('s3');
    const fault = async () => (await briefView(me(), 'NAV', enrolmentId)).brief.mailFault;
    const id = await messageIdIn(copy);
    await deliver(addressOf('bounce', copy)!, { raw: report('delayed', id) });
    expect(await fault()).toBeNull();
    // Of another message, or by way of the address that the student has, it counts for nothing.
    await deliver(addressOf('bounce', copy)!, { raw: report('failed', '<other@x>') });
    await deliver(addressOf('answer', copy)!, { raw: report('failed', id) });
    expect(await fault()).toBeNull();
    expect((await said('s3')).at(-1)).toMatchObject({ automatic: true });
    await deliver(addressOf('bounce', copy)!, { raw: report('failed', id) });
    expect(await fault()).toMatchObject({ why: '5.1.1 550 5.1.1 User unknown' });
    const [row] = await small.test.db.orm.select().from(recipients).where(eq(recipients.id, copy));
    expect(row).toMatchObject({
      mailState: 'failed',
      mailError: 'It came back: 5.1.1 550 5.1.1 User unknown',
    });
    await retryMail(me(), 'NAV', copy, 'bo@students.example');
    await workOff(small.test.db);
    expect(await fault()).toBeNull();
  });
  it('at once, refused for its recipient, marks the address too', async () => {
    const copy = await write('s2');
    expect(copy).toBeGreaterThan(0);
    const marked = await small.test.db.orm.select().from(persons).where(eq(persons.externalId, 's2'));
    expect(marked[0]!.mailFault).toMatch(/^550 5\.1\.1 This mailbox does not exist/);
  });
});
