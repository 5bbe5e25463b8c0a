import { connect, createServer } from 'node:net';
import { realpathSync } from 'node:fs';

/** Another process has the data folder open. */
export class FolderHeldError extends Error {
  constructor(folder: string, holder: string) {
    super(
      `The data folder ${folder} is in use by ${holder}. Stop that first, or set LANTERN_DATA to another folder.`,
    );
    this.name = 'FolderHeldError';
  }
}

/** The disk of a data folder has no room for the database to begin: it writes before it reads. */
export class FolderFullError extends Error {
  readonly code = 'ENOSPC';
  constructor(folder: string, cause: unknown) {
    super(`The disk of the data folder ${folder} is full. Free some space and start again.`, { cause });
    this.name = 'FolderFullError';
  }
}

export interface Hold {
  release(): void;
}

/**
 * Takes a data folder for this process alone. The embedded database does not refuse a second process and would lose
 * acknowledged rows, so the lock is ours: an abstract socket named after the folder, which the kernel frees even
 * after kill -9. Whoever connects to it is told who holds it.
 */
export function holdFolder(folder: string, purpose: string): Promise<Hold> {
  const address = `\0lantern:${realpathSync(folder)}`;
  return new Promise((resolve, reject) => {
    const server = createServer((socket) => {
      socket.on('error', () => undefined);
      socket.end(`${purpose} (process ${process.pid})`);
    });
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EADDRINUSE') return reject(error);
      askHolder(address).then((holder) => reject(new FolderHeldError(folder, holder)));
    });
    server.listen(address, () => {
      server.unref();
      resolve({ release: () => server.close() });
    });
  });
}

function askHolder(address: string): Promise<string> {
  return new Promise((resolve) => {
    let answer = '';
    const socket = connect(address);
    const done = () => resolve(answer || 'another process');
    socket.setTimeout(1000, () => socket.destroy());
    socket.on('data', (data) => (answer += data.toString()));
    socket.on('close', done);
    socket.on('error', () => undefined);
  });
}
