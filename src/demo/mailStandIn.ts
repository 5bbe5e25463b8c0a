import { existsSync } from 'node:fs';
import { mkdir, open, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { keptFileName } from '@/core/messages/messageId';

/** Addresses at this domain no longer exist: the stand-in refuses them, as a real server would. */
const GONE = /@gone\./i;
const MOST_BYTES = 5 * 1024 * 1024;

export interface MailStandIn {
  readonly port: number;
  close(): Promise<void>;
}

/**
 * A small mail server on loopback that keeps what it accepts as one .eml file a message. A message whose Message-ID
 * it holds already is accepted and not kept again, so that trying once more never makes two of one.
 */
export async function startMailStandIn(folder: string, port = 0): Promise<MailStandIn> {
  await mkdir(folder, { recursive: true });
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    size: MOST_BYTES,
    onRcptTo(address, _session, callback) {
      if (!GONE.test(address.address)) return callback();
      callback(Object.assign(new Error('5.1.1 This mailbox does not exist'), { responseCode: 550 }));
    },
    onData(stream, _session, callback) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        if (stream.sizeExceeded) {
          return callback(Object.assign(new Error('5.3.4 The message is too large'), { responseCode: 552 }));
        }
        keep(folder, Buffer.concat(chunks)).then(
          () => callback(null, 'kept'),
          () =>
            callback(Object.assign(new Error('4.3.1 The message could not be kept'), { responseCode: 451 })),
        );
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  server.on('error', () => undefined);
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

/** Writes beside and renames, so that a message is there whole or not at all, before it is acknowledged. */
async function keep(folder: string, message: Buffer): Promise<void> {
  const end = message.indexOf('\r\n\r\n');
  const head = message.subarray(0, end < 0 ? undefined : end).toString('utf8');
  const id = /^message-id:\s*(<[^>\r\n]+>)/im.exec(head)?.[1] ?? `<none-${message.length}@stand-in.example>`;
  const file = join(folder, keptFileName(id));
  if (existsSync(file)) return;
  const part = `${file}.${process.pid}.part`;
  const handle = await open(part, 'w');
  try {
    await handle.writeFile(message);
    await handle.sync();
  } finally {
    await handle.close();
  }
  await rename(part, file);
}
