import { mkdirSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { simpleParser } from 'mailparser';
import { readFileSync } from 'node:fs';
import { createTransport } from 'nodemailer';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { withSmallCourse } from '../../../tests/support/course';
import { jobs, letters, persons } from '@/data/schema';
import { startMailStandIn, type MailStandIn } from '@/demo/mailStandIn';
import { rereadConfig } from '../base/config';
import { Later } from '../jobs/runner';
import { workOff } from '../work';
import { addressOf } from './addresses';
import { queueLetters, sendLetter, writeLetters, type NewLetter } from './letters';
import { startMailIn, type MailIn } from './listener';

const small = withSmallCourse();
const box = () => join(small.test.folder, 'mail');
let out: MailStandIn;
let mailIn: MailIn;
const DOMAIN = 'lantern.school.example';
const set = (over: Record<string, string>) => {
  Object.assign(process.env, over);
  rereadConfig();
};

beforeAll(async () => {
  mkdirSync(box(), { recursive: true });
  out = await startMailStandIn(box());
  set({
    SMTP_URL: `smtp://127.0.0.1:${out.port}`,
    LANTERN_MAIL_STANDIN: 'yes',
    LANTERN_MAIL_IN_PORT: '0',
    LANTERN_MAIL_DOMAIN: DOMAIN,
  });
  mailIn = await startMailIn(small.test.db, { host: '127.0.0.1', port: 0 });
});
afterAll(async () => {
  await mailIn.close();
  await out.close();
  for (const name of ['SMTP_URL', 'LANTERN_MAIL_STANDIN', 'LANTERN_MAIL_IN_PORT', 'LANTERN_MAIL_DOMAIN'])
    delete process.env[name];
  rereadConfig();
});
beforeEach(async () => {
  await workOff(small.test.db);
  await small.test.db.orm.delete(letters);
});

let n = 0;
async function write(over: Partial<NewLetter> = {}): Promise<number> {
  const { viewer } = await small.course.student('s1');
  const to = { personId: viewer.personId!, name: 'Łucja Wójcik', email: 'lucja@students.example' };
  const key = `test-${(n += 1)}`;
  await writeLetters(small.test.db, [
    { key, courseId: small.course.courseId, to, subject: 'Word', body: 'One.\n\nTwo <b>.', ...over },
  ]);
  const [row] = await small.test.db.orm
    .select()
    .from(letters)
    .where(eq(letters.key, over.key ?? key));
  return row!.id;
}
const stateOf = async (id: number) =>
  (await small.test.db.orm.select().from(letters).where(eq(letters.id, id)))[0]!.mailState;
const files = () => readdirSync(box()).filter((f) => f.endsWith('.eml'));

describe('a letter', () => {
  it('is written once, and says that a machine sent it and how to get no more', async () => {
    const id = await write({ key: 'once' });
    expect(await write({ key: 'once', subject: 'Again' })).toBe(id);
    const before = files();
    await workOff(small.test.db);
    const [file] = files().filter((f) => !before.includes(f));
    const mail = await simpleParser(readFileSync(join(box(), file!)));
    expect(mail.subject).toBe('Word');
    expect(mail.html).toContain('<p>Two &lt;b&gt;.</p>');
    expect(mail.headers.get('auto-submitted')).toBe('auto-generated');
    const { viewer } = await small.course.student('s1');
    const list = mail.headers.get('list') as unknown as { unsubscribe: { mail: string } };
    expect(list.unsubscribe.mail).toContain(addressOf('stop', viewer.personId!));
  });

  it('waits for its time', async () => {
    const id = await write({ goesAt: Date.now() + 3_600_000_000 });
    await workOff(small.test.db);
    expect(await stateOf(id)).toBe('queued');
  });

  it('is tried again while the server is away, and says so after the last time', async () => {
    const id = await write();
    const before = files();
    // A port at which nobody listens.
    const closed = createServer().listen(0);
    const { port } = closed.address() as { port: number };
    await new Promise((done) => closed.close(done));
    set({ SMTP_URL: `smtp://127.0.0.1:${port}` });
    await expect(sendLetter(small.test.db, { letterId: id }, { last: false })).rejects.toThrow(Later);
    expect(await stateOf(id)).toBe('queued');
    await sendLetter(small.test.db, { letterId: id }, { last: true });
    expect(await stateOf(id)).toBe('failed');
    set({ SMTP_URL: `smtp://127.0.0.1:${out.port}` });
    expect(files()).toEqual(before);
  });

  it('left in the middle by a stop is sent if the server has it not, and not again if it has', async () => {
    const lost = await write();
    const has = await write();
    await sendLetter(small.test.db, { letterId: has }, { last: false });
    const { orm } = small.test.db;
    await orm.update(letters).set({ mailState: 'sending' });
    await orm.delete(jobs);
    const before = files();
    await queueLetters(small.test.db);
    await queueLetters(small.test.db);
    await workOff(small.test.db);
    expect([await stateOf(lost), await stateOf(has)]).toEqual(['sent', 'sent']);
    expect(files().length).toBe(before.length + 1);
  });

  it('turns e-mail off for who writes to its way out, and for nobody else', async () => {
    const { viewer } = await small.course.student('s1');
    const copies = async () =>
      (await small.test.db.orm.select().from(persons).where(eq(persons.id, viewer.personId!)))[0]!.mailCopies;
    const transport = createTransport({ host: '127.0.0.1', port: mailIn.port, ignoreTLS: true });
    const ask = async (to: string) => {
      await transport.sendMail({ from: 'lucja@students.example', to, subject: 'stop', text: '' });
      await workOff(small.test.db, ['mail in']);
    };
    const address = addressOf('stop', viewer.personId!)!;
    await expect(ask(address.replace(/^stop\../, 'stop.7'))).rejects.toThrow('no such address');
    expect(await copies()).toBe(true);
    await ask(address);
    expect(await copies()).toBe(false);
    const id = await write();
    await workOff(small.test.db);
    expect(await stateOf(id)).toBe('turned off');
  });
});
