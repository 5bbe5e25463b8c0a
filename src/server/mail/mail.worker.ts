import { readFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { attachedFiles, type AttachedFile } from '@/core/formats/mail/attachedFiles';
import { readIncoming, type Incoming } from '@/core/formats/mail/incoming';

/** What a thread that reads an e-mail is told. */
export interface MailTask {
  readonly path: string;
  /** Whether its files are wanted: it came to the address of automatic imports. */
  readonly files: boolean;
  /** Whether its words are wanted: it came to the address of an answer. */
  readonly words: boolean;
  readonly vouchers: readonly string[];
}

/** What is in an e-mail. */
export interface MailRead {
  readonly incoming: Incoming | null;
  readonly files: readonly AttachedFile[];
}

/** What the thread says: that it begins, what it read, or that this is no mail it can read. */
export type MailMessage = 'reading' | MailRead | { readonly unreadable: string };

const port = parentPort!;
const say = (message: MailMessage): void => port.postMessage(message);

async function read({ path, files, words, vouchers }: MailTask): Promise<void> {
  const raw = await readFile(path);
  say('reading');
  try {
    say({
      incoming: words ? await readIncoming(raw, vouchers) : null,
      files: files ? await attachedFiles(raw) : [],
    });
  } catch (error) {
    say({ unreadable: error instanceof Error ? error.message : 'unknown' });
  }
}

// The one that begins this thread is ours.
void read(workerData as MailTask);
