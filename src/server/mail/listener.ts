import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import { faultOfHead, MOST_HEAD } from '@/core/formats/mail/head';
import type { Database } from '@/data/database';
import { isDiskFull, needSpace, reportFailure } from '../base/failure';
import { UseCaseError } from '../base/errors';
import { arriving } from '../staging/staging';
import { enqueue, wakeRunner } from '../jobs/queue';
import { readAddress } from './addresses';
import { DOOR_LIMITS, Patience, type DoorLimits } from './patience';

const MB = 1024 * 1024;
/** Megabytes that an answer may have (words, and what mail programs set around them), and a report with its files. */
const MOST = { answer: 2, report: 25 } as const;
/** Conversations at once. */
const MOST_CLIENTS = 50;
/** An answer is to one message; a report may name a few. */
const MOST_RECIPIENTS = 10;

const refusal = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });

export interface MailIn {
  readonly port: number;
  readonly close: () => Promise<void>;
}

/**
 * Listens for answers by e-mail, and for reports (SMTP, RFC 5321). Only addresses that we made and signed are taken. A
 * message is written to the disk as it comes, and acknowledged once it is safe there with the job that will read it;
 * nothing of it but its head is looked at here.
 */
export async function startMailIn(
  db: Database,
  { host, port }: { readonly host: string; readonly port: number },
  limits: DoorLimits = DOOR_LIMITS,
): Promise<MailIn> {
  const patience = new Patience(limits);
  const step = ({ remoteAddress, remotePort }: SMTPServerSession, isLast = false) =>
    patience.step(remoteAddress, remotePort, isLast);
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    // Looking up the name of who calls would wait for a server of theirs.
    disableReverseLookup: true,
    logger: false,
    banner: 'Ready Lantern',
    size: MOST.report * MB,
    maxClients: MOST_CLIENTS,
    onConnect(session, callback) {
      if (!patience.admits(session.remoteAddress, session.remotePort))
        return callback(refusal(421, '4.7.0 Too many connections from your address; try again later'));
      step(session);
      callback();
    },
    onMailFrom(_, session, callback) {
      step(session);
      callback();
    },
    onRcptTo({ address }, session, callback) {
      step(session);
      if (!readAddress(address)) return callback(refusal(550, '5.1.1 There is no such address here'));
      if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
        return callback(refusal(452, '4.5.3 Too many recipients'));
      callback();
    },
    onData(stream, session, callback) {
      step(session, true);
      const to = session.envelope.rcptTo.flatMap(({ address }) => readAddress(address) ?? []);
      const most = to.every((t) => t.use === 'report') ? MOST.report : MOST.answer;
      take(db, stream, most * MB, to).then(
        () => {
          step(session);
          callback(null, 'Thank you');
        },
        (error: unknown) => {
          step(session);
          // Whoever hangs up in the middle is no failure of ours.
          if (error instanceof CutOff) return callback(refusal(451, '4.4.2 The message was cut off'));
          // What is refused for good is said so; the rest may work later.
          if (error instanceof Error && 'responseCode' in error) return callback(error);
          if (isDiskFull(error) || error instanceof UseCaseError)
            return callback(refusal(452, '4.3.1 There is no room for it; try again later'));
          reportFailure('mail that came in', error);
          callback(refusal(451, '4.3.0 It could not be kept; try again later'));
        },
      );
    },
  });
  server.server.on('connection', (socket) => patience.begin(socket));
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

/** The connection ended within a message. */
class CutOff extends Error {}

/** Where the head of a message ends (RFC 5322, section 2.1). */
const HEAD_END = /\r?\n\r?\n/;

/** Writes a message to the disk, up to a size, and queues its reading. Throws what SMTP is to answer if it can't be taken. */
async function take(
  db: Database,
  stream: Readable,
  most: number,
  to: readonly NonNullable<ReturnType<typeof readAddress>>[],
): Promise<void> {
  let failure: unknown = null;
  let upload: Awaited<ReturnType<typeof arriving>> | null = null;
  let file: Awaited<ReturnType<typeof open>> | null = null;
  try {
    await needSpace(most);
    upload = await arriving(null);
    file = await open(upload.pathFor(MAIL_FILE), 'w');
  } catch (error) {
    failure = error;
  }
  let size = 0;
  let head = '';
  // What can't be kept is read to its end all the same: only then can we answer.
  try {
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      size += chunk.length;
      if (size > most)
        failure ??= refusal(552, `5.3.4 The message is too large; send less than ${most / MB} MB`);
      if (head.length < MOST_HEAD + 4 && !HEAD_END.test(head))
        head += chunk.toString('latin1', 0, MOST_HEAD + 4 - head.length);
      if (failure == null) await file?.write(chunk).catch((error: unknown) => (failure = error));
    }
  } catch {
    failure = new CutOff();
  }
  const end = HEAD_END.exec(head)?.index;
  // A message without a body has no empty line.
  const fault = faultOfHead(head.slice(0, end), end != null || size <= MOST_HEAD);
  if (fault) failure ??= refusal(554, fault);
  try {
    if (failure == null) await file?.sync();
  } finally {
    await file?.close();
  }
  if (failure != null || !upload) {
    await upload?.drop();
    throw failure;
  }
  const id = await upload.keep();
  await enqueue(db, { kind: 'mail in', payload: { upload: id, to: [...to] } });
  wakeRunner();
}

/** The name of a mail among the files that wait to be read. */
const MAIL_FILE = 'message.eml';
