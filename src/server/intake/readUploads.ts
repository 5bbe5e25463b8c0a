import { Worker } from 'node:worker_threads';
import type { KnownCourse } from '@/core/formats/oneroster/known';
import { invalid } from '../base/errors';
import { beginThread } from '../base/thread';
import { unwatched, type Progress } from '../jobs/progress';
import { AHEAD, Uncarried } from './carried';
import type { ReadingMessage, ReadingTask } from './reading.worker';
import { readFiles, type ReadAbout, type ReadUploads } from './readFiles';
import { inMemory, isArchive, sizeOf, type StagedFile, type Upload } from '../staging/upload';

/** Files of up to so many bytes together are read on the spot, unless one is an archive. */
const SMALL = 64 * 1024;
/** Threads that read at a time; others wait for their turn. */
const MOST_THREADS = 2;
/** Memory for one of them: more than any upload within the limits takes. */
const MOST_MEGABYTES = 3000;
/** How often somebody can cancel while a thread reads. */
const LOOK_EVERY_MS = 500;

/**
 * Reads files of others (see `readFiles`) without keeping anybody waiting, whatever is in them: all but small ones are
 * read in a thread of their own.
 */
export async function readUploads(
  uploads: readonly Upload[],
  about: ReadAbout,
  progress: Progress = unwatched,
): Promise<ReadUploads> {
  const staged = uploads.filter((u): u is StagedFile => 'path' in u);
  const small = uploads.reduce((sum, u) => sum + sizeOf(u), 0) <= SMALL;
  const archives = await Promise.all(uploads.map(isArchive));
  if (staged.length < uploads.length || (small && !archives.includes(true)))
    return readFiles(await Promise.all(uploads.map(inMemory)), about);
  const leave = await turnToRead();
  try {
    return await readElsewhere(staged, about, progress);
  } finally {
    leave();
  }
}

const holder = globalThis as typeof globalThis & { lanternReading?: { busy: number; queue: (() => void)[] } };

/** Waits until fewer threads than may read. Returns what ends the turn. */
async function turnToRead(): Promise<() => void> {
  const state = (holder.lanternReading ??= { busy: 0, queue: [] });
  if (state.busy >= MOST_THREADS) await new Promise<void>((go) => state.queue.push(go));
  else state.busy++;
  return () => {
    const next = state.queue.shift();
    if (next) next();
    else state.busy--;
  };
}

function begin(task: ReadingTask): Worker {
  const options = { workerData: task, resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES } };
  const file = new URL('./reading.worker.ts', import.meta.url);
  return beginThread(
    () => new Worker(new URL('./reading.worker.ts', import.meta.url), options),
    file,
    options,
  );
}

async function readElsewhere(
  uploads: readonly StagedFile[],
  { known, ...about }: ReadAbout,
  progress: Progress,
): Promise<ReadUploads> {
  const worker = begin({ uploads, about, knows: known !== undefined });
  const parts = new Uncarried();
  let watch: NodeJS.Timeout | undefined;
  try {
    return await new Promise<ReadUploads>((resolve, reject) => {
      let taken = 0;
      const take = async (message: ReadingMessage) => {
        if ('asksKnown' in message) return worker.postMessage((await known!()) satisfies KnownCourse);
        const whole = parts.take(message);
        if (whole) return resolve(whole);
        if (++taken % AHEAD === 0) worker.postMessage('more');
      };
      worker.on('message', (message: ReadingMessage) => void take(message).catch(reject));
      worker.on('error', (error: Error & { code?: string }) =>
        reject(
          error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? invalid('There is too much in these files to read them at once; cut them into several.')
            : error,
        ),
      );
      worker.on('exit', () => reject(new Error('the reading of files ended early')));
      watch = setInterval(() => void progress('Reading the files').catch(reject), LOOK_EVERY_MS);
    });
  } finally {
    clearInterval(watch);
    await worker.terminate();
  }
}
