import { SMTPServer } from 'smtp-server';
import type { Database } from '@/data/database';
import { reportFailure } from '../base/failure';
import { readAddress } from './addresses';
import { takeMail } from './incoming';

const MB = 1024 * 1024;
/** Megabytes that an answer may have (words, and what mail programs set around them), and a report with its files. */
const MOST = { answer: 2, report: 25 } as const;
/** Conversations at once. */
const MOST_CLIENTS = 20;
/** An answer is to one copy; a report may name a few. */
const MOST_RECIPIENTS = 10;

const refusal = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });

/** Takes a report of a system about a course. */
export type TakeReport = (db: Database, feedId: number, raw: Uint8Array) => Promise<void>;

export interface MailIn {
  readonly port: number;
  readonly close: () => Promise<void>;
}

/**
 * Listens for answers by e-mail, and for reports (SMTP, RFC 5321). Only addresses that we made and signed are taken; what is
 * too large is counted as it arrives and not kept. A message is acknowledged once it is stored.
 */
export async function startMailIn(
  db: Database,
  { host, port }: { readonly host: string; readonly port: number },
  takeReport: TakeReport,
): Promise<MailIn> {
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    banner: 'Ready Lantern',
    size: MOST.report * MB,
    maxClients: MOST_CLIENTS,
    onRcptTo({ address }, session, callback) {
      if (!readAddress(address)) return callback(refusal(550, '5.1.1 There is no such address here'));
      if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
        return callback(refusal(452, '4.5.3 Too many recipients'));
      callback();
    },
    onData(stream, session, callback) {
      const to = session.envelope.rcptTo.flatMap(({ address }) => readAddress(address) ?? []);
      const most = to.every((t) => t.use === 'report') ? MOST.report : MOST.answer;
      const chunks: Buffer[] = [];
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        if (size > most * MB) chunks.length = 0;
        else chunks.push(chunk);
      });
      stream.on('error', () => undefined);
      stream.on('end', () => {
        if (size > most * MB)
          return callback(refusal(552, `5.3.4 The message is too large; send less than ${most} MB`));
        const raw = Buffer.concat(chunks);
        const all = async () => {
          for (const { use, id } of to)
            await (use === 'report' ? takeReport(db, id, raw) : takeMail(db, { use, id }, raw));
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
