import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import PostalMime from 'postal-mime';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startMailStandIn, type MailStandIn } from './mailStandIn';

const folder = mkdtempSync(join(tmpdir(), 'lantern-mail-'));
let mail: MailStandIn;
beforeAll(async () => {
  mail = await startMailStandIn(folder);
});
afterAll(() => mail.close());

const transport = () => createTransport({ host: '127.0.0.1', port: mail.port, ignoreTLS: true });
const letter = (over: object = {}) => ({
  from: 'a@x.example',
  to: 'b@x.example',
  subject: 'S',
  text: 'T',
  messageId: '<one@x.example>',
  ...over,
});
const files = () => readdirSync(folder).sort();

describe('the mail stand-in', () => {
  it('keeps a message as it came, and says nothing of it twice', async () => {
    await transport().sendMail(letter({ subject: 'Grüße, Łucja', text: 'ein\nzwei — ✓' }));
    await transport().sendMail(letter({ subject: 'another under the same id' }));
    expect(files()).toEqual(['one@x.example.eml']);
    const kept = await new PostalMime().parse(readFileSync(join(folder, 'one@x.example.eml')));
    expect(kept.subject).toBe('Grüße, Łucja');
    expect(kept.text?.trim()).toBe('ein\nzwei — ✓');
  });
  it('refuses an address that is gone, as a real server does', async () => {
    const before = files();
    await expect(
      transport().sendMail(letter({ to: 'x@gone.y.example', messageId: '<two@x.example>' })),
    ).rejects.toMatchObject({
      responseCode: 550,
      command: 'RCPT TO',
    });
    expect(files()).toEqual(before);
  });
  it('refuses a message that is too large', async () => {
    const text = 'x'.repeat(6 * 1024 * 1024);
    await expect(transport().sendMail(letter({ text, messageId: '<big@x.example>' }))).rejects.toMatchObject({
      responseCode: 552,
    });
  });
  it('keeps nothing of a message that was cut off', async () => {
    const before = files();
    await new Promise<void>((resolve) => {
      const socket = connect(mail.port, '127.0.0.1');
      socket.on('close', () => resolve());
      socket.on('error', () => resolve());
      const steps = [
        'EHLO x\r\n',
        'MAIL FROM:<a@x.example>\r\n',
        'RCPT TO:<b@x.example>\r\n',
        'DATA\r\n',
        'Message-ID: <cut@x>\r\n\r\nhalf a',
      ];
      socket.on('data', () => {
        const next = steps.shift();
        if (next) socket.write(next, () => steps.length === 0 && socket.destroy());
      });
    });
    expect(files()).toEqual(before);
  });
  it('says to try later when it cannot write', async () => {
    const lost = mkdtempSync(join(tmpdir(), 'lantern-mail-'));
    const other = await startMailStandIn(lost);
    rmSync(lost, { recursive: true });
    const sending = createTransport({ host: '127.0.0.1', port: other.port, ignoreTLS: true }).sendMail(
      letter(),
    );
    await expect(sending).rejects.toMatchObject({ responseCode: 451 });
    await other.close();
  });
});
