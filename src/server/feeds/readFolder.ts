import { constants, createWriteStream } from 'node:fs';
import { mkdir, open, readdir, realpath, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { setTimeout as pause } from 'node:timers/promises';
import type { FileMark } from '@/core/forms/feed';
import { config } from '../base/config';
import { timeOfDay } from '../base/clock';
import { invalid } from '../base/errors';

/** How long nobody must have written to a file before it is taken for whole. */
const QUIET_MS = 5000;
/** How often a file is looked at again that is still being written; after that the next look finds it. */
const MOST_LOOKS = 12;

/** Names of files that are not whole yet, or not meant. */
const NOT_MEANT = /^\.|~$|\.(part|partial|tmp|temp|swp|crdownload|filepart)$/i;

export const folderPath = (place: string): string => join(/*turbopackIgnore: true*/ config().inbox, place);

/**
 * Where the folder of a feed really is; null if it is not there. Replaced by a link it would lead anywhere on the machine,
 * so it has to lie within the inbox.
 */
async function realFolder(place: string): Promise<string | null> {
  const [inbox, folder] = await Promise.all(
    [config().inbox, folderPath(place)].map((path) => realpath(path).catch(() => null)),
  );
  if (inbox == null || folder == null) return null;
  if (folder !== join(inbox, place))
    throw invalid('Its folder is a link to somewhere else, which is not followed. Put a real folder there.');
  return folder;
}

/** Copies a file of a feed; one that became a link meanwhile is not followed. */
export async function copyPlain(from: string, to: string): Promise<void> {
  const file = await open(from, constants.O_RDONLY | constants.O_NOFOLLOW);
  await pipeline(file.createReadStream(), createWriteStream(to));
}

/** Makes the folder of a feed, for those who put files there. */
export const makeFolder = async (place: string): Promise<void> =>
  void (await mkdir(folderPath(place), { recursive: true }));

async function markOf(folder: string, name: string): Promise<FileMark | null> {
  const about = await stat(join(folder, name)).catch(() => null);
  return about?.isFile() ? { name, size: about.size, changed: about.mtimeMs } : null;
}

export const sameMark = (a: FileMark, b: FileMark): boolean =>
  a.name === b.name && a.size === b.size && a.changed === b.changed;

/** The mark of a file once nobody writes to it; null if it goes on being written, or is gone. */
async function whole(folder: string, first: FileMark): Promise<FileMark | null> {
  // By the clock of the disk, which need not be ours: what lies ahead was written just now.
  if (timeOfDay() - first.changed > QUIET_MS) return first;
  let before = first;
  for (let i = 0; i < MOST_LOOKS; i++) {
    await pause(QUIET_MS);
    const after = await markOf(folder, first.name);
    if (!after) return null;
    if (sameMark(before, after)) return after;
    before = after;
  }
  return null;
}

/**
 * The files of a folder that nobody has taken, whole, the oldest first; links and folders in it are not followed. With them,
 * what is left of the marks of those that were taken.
 */
export async function newIn(
  place: string,
  taken: readonly FileMark[],
): Promise<{ readonly fresh: readonly (FileMark & { readonly path: string })[]; readonly kept: FileMark[] }> {
  const folder = await realFolder(place);
  const found = folder && (await readdir(folder, { withFileTypes: true }).catch(() => null));
  if (!folder || !found) throw invalid('Its folder isn’t there anymore.');
  const names = found.filter((f) => f.isFile() && !NOT_MEANT.test(f.name)).map((f) => f.name);
  const marks = (await Promise.all(names.map((name) => markOf(folder, name)))).filter((m) => m != null);
  const isTaken = (mark: FileMark) => taken.some((t) => sameMark(t, mark));
  const fresh: (FileMark & { path: string })[] = [];
  for (const mark of marks) {
    const ready = isTaken(mark) ? null : await whole(folder, mark);
    if (ready) fresh.push({ ...ready, path: join(folder, ready.name) });
  }
  return {
    fresh: fresh.sort((a, b) => a.changed - b.changed || (a.name < b.name ? -1 : 1)),
    kept: marks.filter(isTaken),
  };
}
