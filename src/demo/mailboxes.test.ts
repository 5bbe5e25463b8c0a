import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startMailboxes, type Mailboxes } from './mailboxes';
import { startMailStandIn, type MailStandIn } from './mailStandIn';

const folder = mkdtempSync(join(tmpdir(), 'lantern-mailboxes-'));
const came: { to: string; raw: Buffer }[] = [];
const mailIn = new SMTPServer({
  disabledCommands: ['AUTH', 'STARTTLS'],
  onData: (stream, session, done) => {
    const chunks: Buffer[] = [];
    stream.on('data', (c: Buffer) => chunks.push(c));
    stream.on('end', () => {
      came.push({ to: session.envelope.rcptTo[0]!.address, raw: Buffer.concat(chunks) });
      done();
    });
  },
});
let standIn: MailStandIn;
let boxes: Mailboxes;
const at = (path: string, init?: RequestInit) => fetch(`http://127.0.0.1:${boxes.port}${path}`, init);

beforeAll(async () => {
  await new Promise<void>((resolve) => mailIn.listen(0, '127.0.0.1', () => resolve()));
  standIn = await startMailStandIn(folder);
  boxes = await startMailboxes(folder, (mailIn.server.address() as AddressInfo).port);
});
afterAll(async () => {
  await boxes.close();
  await standIn.close();
  mailIn.close();
  rmSync(folder, { recursive: true, force: true });
});

it('shows what students were sent, and answers for them', async () => {
  await createTransport({ host: '127.0.0.1', port: standIn.port, ignoreTLS: true }).sendMail({
    messageId: '<1@x>',
    from: 'Ines <lantern@x.example>',
    replyTo: 'answer.abc@x.example',
    to: 'Bo <bo@students.example>',
    subject: 'A <b>word</b>',
    text: 'Shall we <talk>?',
  });
  const list = await (await at('/')).text();
  expect(list).toContain('A &lt;b&gt;word&lt;/b&gt;');
  const [, path] = /href="(\/mail\/[^"]+)"/.exec(list)!;
  expect(await (await at(path!)).text()).toContain('Shall we &lt;talk&gt;?');
  const sent = await at(path!, { method: 'POST', body: new URLSearchParams({ text: 'Yes, Friday.' }) });
  expect(await sent.text()).toContain('The answer is sent.');
  expect(came.map((c) => c.to)).toEqual(['answer.abc@x.example']);
  const mail = await simpleParser(came[0]!.raw);
  expect(mail.from!.value[0]!.address).toBe('bo@students.example');
  expect(mail.text).toMatch(/^Yes, Friday\.\n\n> Shall we <talk>\?/);
});

it('is read and written by pages of its own only, and gives out nothing but its e-mails', async () => {
  const foreign = { method: 'POST', headers: { origin: 'https://elsewhere.example' } };
  expect((await at('/', foreign)).status).toBe(403);
  expect((await at('/mail/..%2F..%2Fsecret')).status).toBe(404);
  expect((await at('/mail/none.eml')).status).toBe(500);
  expect(came).toHaveLength(1);
});
