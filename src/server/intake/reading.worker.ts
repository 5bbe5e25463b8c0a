import { once } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import type { KnownCourse } from '@/core/formats/oneroster/known';
import { AHEAD, carry, type Carried } from './carried';
import { readFiles, type ReadAbout } from './readFiles';
import { inMemory, type StagedFile } from '../staging/upload';

/** What a reading thread is told. */
export interface ReadingTask {
  readonly uploads: readonly StagedFile[];
  readonly about: Omit<ReadAbout, 'known'>;
  readonly knows: boolean;
}

/** What it says: that it wants to know more, or a part of what it read. */
export type ReadingMessage = { readonly asksKnown: true } | Carried;

const port = parentPort!;

async function read({ uploads, about, knows }: ReadingTask): Promise<void> {
  const known = async (): Promise<KnownCourse> => {
    port.postMessage({ asksKnown: true } satisfies ReadingMessage);
    const [answer] = (await once(port, 'message')) as [KnownCourse];
    return answer;
  };
  const files = await Promise.all(uploads.map(inMemory));
  const found = await readFiles(files, { ...about, known: knows ? known : undefined });
  let sent = 0;
  for (const message of carry(found)) {
    port.postMessage(message satisfies ReadingMessage);
    if (++sent % AHEAD === 0) await once(port, 'message');
  }
}

// The one that begins this thread is ours.
void read(workerData as ReadingTask);
