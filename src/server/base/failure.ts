import { mkdir, statfs } from 'node:fs/promises';
import { config } from './config';
import { invalid } from './errors';

/** Whether an error, or something that caused it, is of a sort. */
function atBottom(
  error: unknown,
  is: (e: Error & { severity?: unknown; code?: unknown }) => boolean,
): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) if (is(e)) return true;
  return false;
}

/** Whether an error says that the embedded database cannot go on. */
const isPanic = (error: unknown) => atBottom(error, (e) => e.severity === 'PANIC');

/** Whether an error says that a row of that key is there already: 23505 is PostgreSQL's unique_violation. */
export const isTaken = (error: unknown): boolean => atBottom(error, (e) => e.code === '23505');

/** What people are told where there was no room to write: 53100 is PostgreSQL's disk_full, ENOSPC that of the system. */
export const DISK_FULL =
  'The disk of the server is full. Nothing was changed; have some space freed and try again.';
export const isDiskFull = (error: unknown): boolean =>
  atBottom(error, (e) => e.code === '53100' || e.code === 'ENOSPC');

/**
 * Notes an unforeseen failure by its kind alone: messages of failed queries hold their values, which are about
 * students. If the embedded database has given up, the process ends with a plain word, since every later request
 * would fail; what was acknowledged is there again after the next start.
 *
 * @returns what to tell who asked; null where there is nothing more to say than that it failed
 */
export function reportFailure(where: string, error: unknown): string | null {
  const full = isDiskFull(error);
  console.error(
    `${where} failed:`,
    full ? 'the disk is full' : error instanceof Error ? error.name : 'unknown',
  );
  if (!isPanic(error)) return full ? DISK_FULL : null;
  console.error(
    'The embedded database has stopped; most likely the disk is full. Free some space and start again.',
  );
  setTimeout(() => process.exit(1), 200).unref();
  return DISK_FULL;
}

/** Left over for everything else that writes. */
const SPARE_BYTES = 64 * 1024 * 1024;

/** Refuses, before anything is written, what the disk of the data folder has no room for. */
export async function needSpace(bytes: number): Promise<void> {
  const { dataFolder } = config();
  // With a database elsewhere nothing may have been kept in it yet.
  await mkdir(dataFolder, { recursive: true });
  const { bavail, bsize } = await statfs(dataFolder);
  const free = bavail * bsize;
  if (free >= bytes + SPARE_BYTES) return;
  const mb = (n: number) => Math.floor(n / 1024 / 1024).toLocaleString('en');
  throw invalid(
    `The disk of the server is nearly full: ${mb(free)} MB are free, ${mb(bytes + SPARE_BYTES)} MB are needed. Nothing was changed.`,
  );
}
