import { statfs } from 'node:fs/promises';
import { config } from './config';
import { invalid } from './errors';

/** Whether an error, or what caused it, says that the embedded database cannot go on. */
function isPanic(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    if ('severity' in e && e.severity === 'PANIC') return true;
  }
  return false;
}

/**
 * Notes an unforeseen failure by its kind alone: messages of failed queries hold their values, which are about
 * students. If the embedded database has given up, the process ends with a plain word, since every later request
 * would fail; what was acknowledged is there again after the next start.
 */
export function reportFailure(where: string, error: unknown): void {
  console.error(`${where} failed:`, error instanceof Error ? error.name : 'unknown');
  if (!isPanic(error)) return;
  console.error(
    'The embedded database has stopped; most likely the disk is full. Free some space and start again.',
  );
  setTimeout(() => process.exit(1), 200).unref();
}

/** Left over for everything else that writes. */
const SPARE_BYTES = 64 * 1024 * 1024;

/** Refuses, before anything is written, what the disk of the data folder has no room for. */
export async function needSpace(bytes: number): Promise<void> {
  const { bavail, bsize } = await statfs(config().dataFolder);
  const free = bavail * bsize;
  if (free >= bytes + SPARE_BYTES) return;
  const mb = (n: number) => Math.floor(n / 1024 / 1024).toLocaleString('en');
  throw invalid(
    `The disk of the server is nearly full: ${mb(free)} MB are free, ${mb(bytes + SPARE_BYTES)} MB are needed. Nothing was changed.`,
  );
}
