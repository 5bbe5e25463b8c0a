import { Worker } from 'node:worker_threads';
import { beginThread } from '../base/thread';
import type { MailMessage, MailRead, MailTask } from './mail.worker';

/** How long the reading of one e-mail may take once it has begun; honest mail of 25 MB takes less than a second. */
const MOST_MS = 5000;
/** How long the thread may take until it begins: a busy machine is no fault of the mail. */
const MOST_START_MS = 120_000;
/** Memory for it, in megabytes. */
const MOST_MEGABYTES = 512;

function begin(task: MailTask): Worker {
  const options = { workerData: task, resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES } };
  const file = new URL('./mail.worker.ts', import.meta.url);
  return beginThread(() => new Worker(new URL('./mail.worker.ts', import.meta.url), options), file, options);
}

/**
 * Reads an e-mail from its file in a thread of its own, with limits on time and memory, so that whatever is in it keeps
 * nobody waiting. Null if it can't be read within them.
 */
export async function readMail(task: MailTask): Promise<MailRead | null> {
  const worker = begin(task);
  let timer: NodeJS.Timeout | undefined;
  try {
    return await new Promise<MailRead | null>((resolve, reject) => {
      const within = (ms: number, end: () => void) => {
        clearTimeout(timer);
        timer = setTimeout(end, ms);
      };
      within(MOST_START_MS, () => reject(new Error('the thread that reads mail did not begin')));
      worker.on('message', (message: MailMessage) => {
        if (message === 'reading') return within(MOST_MS, () => resolve(null));
        resolve('unreadable' in message ? null : message);
      });
      worker.on('error', (error: Error & { code?: string }) =>
        error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? resolve(null) : reject(error),
      );
      worker.on('exit', () => reject(new Error('the thread that reads mail ended early')));
    });
  } finally {
    clearTimeout(timer);
    await worker.terminate();
  }
}
