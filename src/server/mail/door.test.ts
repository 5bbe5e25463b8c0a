import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createConnection, type Socket } from 'node:net';
import { createTransport } from 'nodemailer';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { docOf } from '@/core/messages/doc';
import { recipients, replies } from '@/data/schema';
import { rereadConfig } from '../base/config';
import { sendMessages } from '../act/compose';
import { workOff } from '../work';
import { addressOf } from './addresses';
import { startMailIn, type MailIn } from './listener';

const small = withSmallCourse();
let door: MailIn;
let to: string;
/** Short enough to see it end, long enough for a busy machine to say what honest mail says. */
const LIMITS = { anAddress: 3, conversationMs: 6000, commandMs: 2500 };

beforeAll(async () => {
  Object.assign(process.env, {
    LANTERN_MAIL_IN_PORT: '0',
    LANTERN_MAIL_DOMAIN: 'lantern.school.example',
  });
  rereadConfig();
  door = await startMailIn(small.test.db, { host: '127.0.0.1', port: 0 }, LIMITS);
  const { enrolmentId } = await small.course.student('s3');
  const { messageId } = await sendMessages(small.course.instructor, 'NAV', [
    {
      key: randomUUID(),
      subject: 'A word',
      doc: docOf('Shall we talk?'),
      reason: 'behind',
      about: 'other',
      activityId: null,
      recipients: [{ enrolmentId, plan: null }],
    },
  ]);
  const [copy] = await small.test.db.orm.select().from(recipients).where(eq(recipients.messageId, messageId));
  to = addressOf('answer', copy!.id)!;
});
afterAll(async () => {
  await door.close();
  for (const name of ['LANTERN_MAIL_IN_PORT', 'LANTERN_MAIL_DOMAIN']) delete process.env[name];
  rereadConfig();
});

/** A conversation by hand from an address of this machine; what was heard is there to read at its end. */
class Caller {
  heard = '';
  readonly socket: Socket;
  readonly closed: Promise<unknown>;
  constructor(localAddress: string) {
    this.socket = createConnection({ port: door.port, host: '127.0.0.1', localAddress });
    this.socket.on('data', (d: Buffer) => (this.heard += d.toString()));
    this.socket.on('error', () => undefined);
    this.closed = new Promise((done) => this.socket.once('close', done));
  }
  async hears(what: RegExp): Promise<void> {
    while (!what.test(this.heard)) {
      if (this.socket.destroyed) throw new Error(`closed after: ${this.heard}`);
      await Promise.race([once(this.socket, 'data'), this.closed]);
    }
  }
}

/** Sends an honest answer from an address of its own, and says whether it was kept. */
async function honestMailPasses(): Promise<boolean> {
  const text = `Honest ${randomUUID()}`;
  const transport = createTransport({
    host: '127.0.0.1',
    port: door.port,
    ignoreTLS: true,
    localAddress: '127.0.0.9',
  });
  await transport.sendMail({ from: 'bo@students.example', to, subject: 'Re: A word', text });
  transport.close();
  await workOff(small.test.db, ['mail in']);
  const kept = await small.test.db.orm.select().from(replies).where(eq(replies.body, text));
  return kept.length === 1;
}

describe('the mail door stays open for honest mail', () => {
  it('beside a caller who sends a byte at a time', async () => {
    const slow = new Caller('127.0.0.2');
    await slow.hears(/^220/);
    const drip = setInterval(() => slow.socket.write('E'), 200);
    expect(await honestMailPasses()).toBe(true);
    await slow.closed;
    clearInterval(drip);
    expect(slow.heard).toContain('421 4.4.2');
  });
  it('beside one who says nothing', async () => {
    const idle = new Caller('127.0.0.2');
    expect(await honestMailPasses()).toBe(true);
    await idle.closed;
    expect(idle.heard).toContain('421 4.4.2');
  });
  it('beside one who drips the text of a message for ever', async () => {
    const slow = new Caller('127.0.0.2');
    await slow.hears(/^220/);
    slow.socket.write(`EHLO x\r\nMAIL FROM:<bo@students.example>\r\nRCPT TO:<${to}>\r\nDATA\r\n`);
    await slow.hears(/354/);
    const drip = setInterval(() => slow.socket.write('x\r\n'), 200);
    expect(await honestMailPasses()).toBe(true);
    await slow.closed;
    clearInterval(drip);
    expect(slow.heard).toContain('421 4.4.2');
  });
  it('beside twenty callers of one address: three talk, the others are sent away', async () => {
    const many = Array.from({ length: 20 }, () => new Caller('127.0.0.3'));
    expect(await honestMailPasses()).toBe(true);
    await Promise.all(many.map((c) => c.closed));
    expect(many.filter((c) => /421 4\.7\.0/.test(c.heard))).toHaveLength(17);
  });
  it('beside one who says everything at once', async () => {
    const hasty = new Caller('127.0.0.4');
    const text = `Hasty ${randomUUID()}`;
    await hasty.hears(/^220/);
    hasty.socket.write(
      `EHLO x\r\nMAIL FROM:<bo@students.example>\r\nRCPT TO:<${to}>\r\nDATA\r\nFrom: bo@students.example\r\n\r\n${text}\r\n.\r\nQUIT\r\n${'NOOP\r\n'.repeat(500)}`,
    );
    expect(await honestMailPasses()).toBe(true);
    await hasty.closed;
    await workOff(small.test.db, ['mail in']);
    expect(await small.test.db.orm.select().from(replies).where(eq(replies.body, text))).toHaveLength(1);
  });
  it('beside one who hangs up in the middle, of whom nothing is kept', async () => {
    const before = (await small.test.db.orm.select().from(replies)).length;
    const cut = new Caller('127.0.0.5');
    await cut.hears(/^220/);
    cut.socket.write(`EHLO x\r\nMAIL FROM:<bo@students.example>\r\nRCPT TO:<${to}>\r\nDATA\r\n`);
    await cut.hears(/354/);
    cut.socket.write('From: bo@students.example\r\n\r\nHalf a sen');
    cut.socket.destroy();
    await cut.closed;
    expect(await honestMailPasses()).toBe(true);
    expect(await small.test.db.orm.select().from(replies)).toHaveLength(before + 1);
  });
});
