import { SMTPServer } from 'smtp-server';
import type { Database } from '@/data/database';
import { reportFailure } from '../base/failure';
import { readAddress } from './addresses';
import { takeMail } from './incoming';

/** Bytes that an answer may have: words, and what mail programs set around them. */
const MOST_BYTES = 2 * 1024 * 1024;
/** Conversations at once. */
const MOST_CLIENTS = 20;
/** An answer is to one copy; a report may name a few. */
const MOST_RECIPIENTS = 10;

const refusal = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });

export interface MailIn {
  readonly port: number;
  readonly close: () => Promise<void>;
}

/**
 * Listens for answers by e-mail (SMTP, RFC 5321). Only addresses that we made and signed are taken, each for one copy; what
 * is too large is counted as it arrives and not kept. A message is acknowledged once it is stored.
 */
export async function startMailIn(
  db: Database,
  { host, port }: { readonly host: string; readonly port: number },
): Promise<MailIn> {
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    banner: 'Ready Lantern',
    size: MOST_BYTES,
    maxClients: MOST_CLIENTS,
    onRcptTo({ address }, session, callback) {
      if (!readAddress(address)) return callback(refusal(550, '5.1.1 There is no such address here'));
      if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
        return callback(refusal(452, '4.5.3 Too many recipients'));
      callback();
    },
    onData(stream, session, callback) {
      const chunks: Buffer[] = [];
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        if (size > MOST_BYTES) chunks.length = 0;
        else chunks.push(chunk);
      });
      stream.on('error', () => undefined);
      stream.on('end', () => {
        if (size > MOST_BYTES)
          return callback(refusal(552, '5.3.4 The message is too large; send less than 2 MB'));
        const raw = Buffer.concat(chunks);
        const to = session.envelope.rcptTo.flatMap(({ address }) => readAddress(address) ?? []);
        const all = async () => {
          for (const each of to) await takeMail(db, each, raw);
        };
        all().then(
          () => callback(null, 'Thank you'),
          (error: unknown) => {
            reportFailure('mail that came in', error);
            callback(refusal(451, '4.3.0 It could not be kept; try again later'));
          },
        );
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
  // Whoever hangs up in the middle is no failure of ours.
  server.on('error', () => undefined);
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
