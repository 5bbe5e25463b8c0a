import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mailOptions } from './transport';

describe('how mail goes to a server', () => {
  it.each([
    ['smtp://127.0.0.1:25', { ignoreTLS: true }],
    ['smtp://127.9.9.9:25', { ignoreTLS: true }],
    ['smtp://localhost:25', { ignoreTLS: true }],
    ['smtp://[::1]:25', { ignoreTLS: true }],
    ['smtp://mail.example:587', { requireTLS: true }],
    ['smtps://mail.example', { requireTLS: true }],
    ['smtp://192.0.2.1', { requireTLS: true }],
    ['smtp://localhost.example', { requireTLS: true }],
  ])('%s', (url, options) => {
    expect(mailOptions(url, false)).toMatchObject(options);
    expect(mailOptions(url, false)).not.toMatchObject({ requireTLS: true, ignoreTLS: true });
  });

  it('may be in clear where the settings say so', () => {
    expect(mailOptions('smtp://mail.example', true)).not.toHaveProperty('requireTLS');
  });
});

describe('a mail server that offers no STARTTLS', () => {
  let server: SMTPServer;
  let taken = 0;
  beforeAll(async () => {
    server = new SMTPServer({
      disabledCommands: ['AUTH', 'STARTTLS'],
      onData: (stream, _, done) => {
        taken++;
        stream.resume().on('end', () => done());
      },
    });
    server.listen(0, '127.0.0.1');
    await once(server.server, 'listening');
  });
  afterAll(() => new Promise<void>((resolve) => server.close(resolve)));

  it('gets nothing by the options for a server elsewhere, and mail by those for this machine', async () => {
    const { port } = server.server.address() as AddressInfo;
    const mail = { from: 'a@x.example', to: 'b@x.example', subject: 'x', text: 'x' };
    const own = `smtp://127.0.0.1:${port}`;
    const strict = createTransport({ ...mailOptions('smtp://mail.example', false), url: own });
    await expect(strict.sendMail(mail)).rejects.toThrow(/STARTTLS|TLS/);
    expect(taken).toBe(0);
    const plain = createTransport(mailOptions(own, false));
    await plain.sendMail(mail);
    expect(taken).toBe(1);
    // The server waits for whoever is still connected.
    for (const transport of [strict, plain]) transport.close();
  });
});
