import { readdir, readFile, stat } from 'node:fs/promises';
import { createServer, type IncomingMessage } from 'node:http';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import PostalMime, { type Email } from 'postal-mime';
import { escapeHtml } from '@/core/messages/docText';

/** E-mails in the list, the newest first. */
const MOST_SHOWN = 200;
const MOST_FORM_BYTES = 64 * 1024;
/** The name of the mail server that this stands for: the demo trusts its word on who sent an answer. */
const VOUCHER = 'mail.saltmarsh.example';

export interface Mailboxes {
  readonly port: number;
  close(): Promise<void>;
}

const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title>
<style>body{font:16px/1.5 sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1c2536;background:#f7f3ea}
table{width:100%;border-collapse:collapse}td,th{text-align:left;padding:.35rem .5rem;border-bottom:1px solid #e4dccb;vertical-align:top}
pre{white-space:pre-wrap;font:inherit;background:#fffdf8;border:1px solid #e4dccb;padding:1rem}
textarea{width:100%;font:inherit}button{font:inherit;padding:.3rem 1rem}a{color:#0e5c61}</style></head>
<body><h1>${escapeHtml(title)}</h1>${body}</body></html>`;

/** A file of the folder, and nothing beside it. */
const isMail = (name: string): boolean => /^[a-zA-Z0-9.@_-]+\.eml$/.test(name) && !name.startsWith('.');

const read = async (folder: string, name: string): Promise<Email> =>
  PostalMime.parse(await readFile(join(folder, name)));

const addressOf = (mail: Email): string => mail.to?.[0]?.address ?? '';

async function listPage(folder: string): Promise<string> {
  const names = (await readdir(folder).catch(() => [])).filter(isMail);
  const dated = await Promise.all(
    names.map(async (name) => ({ name, at: (await stat(join(folder, name))).mtimeMs })),
  );
  const newest = dated.sort((a, b) => b.at - a.at).slice(0, MOST_SHOWN);
  const rows: string[] = [];
  for (const { name } of newest) {
    const mail = await read(folder, name);
    rows.push(
      `<tr><td>${escapeHtml(mail.to?.[0]?.name ?? '')}<br>${escapeHtml(addressOf(mail))}</td><td><a href="/mail/${encodeURIComponent(name)}">${escapeHtml(mail.subject ?? '(no subject)')}</a></td><td>${escapeHtml(mail.from?.name ?? '')}</td></tr>`,
    );
  }
  return page(
    'Mailboxes of the demo students',
    rows.length === 0
      ? '<p>Nothing has been sent yet.</p>'
      : `<table><thead><tr><th>To</th><th>Subject</th><th>From</th></tr></thead><tbody>${rows.join('\n')}</tbody></table>`,
  );
}

function mailPage(name: string, mail: Email, mailIn: number | null, note: string): string {
  const answer =
    mailIn == null
      ? '<p>No mail comes in, so nothing can be answered from here.</p>'
      : `<form method="post" action="/mail/${encodeURIComponent(name)}"><p><label>Answer as ${escapeHtml(addressOf(mail))}<br><textarea name="text" rows="5" required></textarea></label></p><p><button>Send the answer</button></p></form>`;
  return page(
    mail.subject ?? '(no subject)',
    `<p><a href="/">All mailboxes</a></p>${note ? `<p role="status"><strong>${escapeHtml(note)}</strong></p>` : ''}<p>To ${escapeHtml(addressOf(mail))}, from ${escapeHtml(mail.from?.name ?? '')}</p><pre>${escapeHtml(mail.text ?? '')}</pre>${answer}`,
  );
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > MOST_FORM_BYTES) throw new Error('too large');
  }
  return text;
}

/** Answers an e-mail for the student it went to. */
async function send(mail: Email, text: string, mailIn: number): Promise<void> {
  const domainOf = (of: Email) => addressOf(of).split('@')[1] ?? '';
  const transport = createTransport({ host: '127.0.0.1', port: mailIn, ignoreTLS: true });
  await transport.sendMail({
    from: { name: mail.to?.[0]?.name ?? '', address: addressOf(mail) },
    to: mail.replyTo?.[0]?.address ?? mail.from?.address,
    subject: `Re: ${mail.subject ?? ''}`,
    inReplyTo: mail.messageId,
    // As a receiving server says that it checked who sent it (RFC 8601).
    headers: { 'Authentication-Results': `${VOUCHER}; dmarc=pass header.from=${domainOf(mail)}` },
    text: `${text}\n\n${(mail.text ?? '')
      .split('\n')
      .map((l) => `> ${l}`)
      .join('\n')}\n`,
  });
}

/**
 * The mailboxes of the demo students: what the mail stand-in kept, to be read and answered for them in a browser on this
 * machine. Part of the demo, not of the product.
 *
 * @param mailIn the port at which answers are taken; null if none are
 */
export async function startMailboxes(folder: string, mailIn: number | null, port = 0): Promise<Mailboxes> {
  const server = createServer((request, response) => {
    const answer = (status: number, html: string) =>
      response
        .writeHead(status, {
          'content-type': 'text/html; charset=utf-8',
          'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'",
        })
        .end(html);
    const handle = async () => {
      const url = new URL(request.url ?? '/', 'http://localhost');
      const own = /^(localhost|127\.0\.0\.1)(:\d+)?$/.test(request.headers.host ?? '');
      const { origin } = request.headers;
      // Pages of elsewhere neither read nor write here.
      if (!own || (origin != null && origin !== `http://${request.headers.host}`))
        return answer(403, page('Not from there', ''));
      if (url.pathname === '/') return answer(200, await listPage(folder));
      const name = decodeURIComponent(url.pathname.replace(/^\/mail\//, ''));
      if (!isMail(name)) return answer(404, page('There is no such e-mail', ''));
      const mail = await read(folder, name);
      if (request.method !== 'POST') return answer(200, mailPage(name, mail, mailIn, ''));
      const text = new URLSearchParams(await bodyOf(request)).get('text')?.trim() ?? '';
      if (text === '' || mailIn == null)
        return answer(400, mailPage(name, mail, mailIn, 'Write a word or two.'));
      const sent = await send(mail, text, mailIn).then(
        () => 'The answer is sent.',
        (error: unknown) => `It was refused: ${error instanceof Error ? error.message : 'no answer'}`,
      );
      return answer(200, mailPage(name, mail, mailIn, sent));
    };
    handle().catch(() => answer(500, page('This cannot be shown', '')));
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const address = server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
