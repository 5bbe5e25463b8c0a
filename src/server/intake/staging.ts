import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import * as yup from 'yup';
import type { Mapping } from '@/core/formats/mapping/mapping';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { DAY_MS, HOUR_MS } from '@/core/units';
import { now } from '../clock';
import { config } from '../config';
import { notFound } from '../errors';
import type { StagedFile, UploadedFile } from './upload';

const ticketSchema = yup.object({
  courseId: yup.number().integer().required(),
  userId: yup.string().required(),
  at: yup.number().required(),
  names: yup.array(yup.string().required()).required(),
  /** How files of a foreign make are read, by their names. */
  told: yup.array(yup.object({ name: yup.string().required(), mapping: mappingSchema })).required(),
});
type Ticket = yup.InferType<typeof ticketSchema>;

const folderOf = (id: string) => join(config().dataFolder, 'staging', id);
const ID = /^[0-9a-f-]{36}$/;

/** Where an upload is kept while it comes in. */
export interface Arriving {
  /** The path for the next file; a name from outside never becomes one. */
  readonly pathFor: (name: string) => string;
  /** Keeps what came until it is imported or a day has gone by. Returns the id to ask for it by. */
  readonly keep: () => Promise<string>;
  /** Forgets what came. */
  readonly drop: () => Promise<void>;
}

/** Begins to keep an upload: nobody finds it before it is whole. */
export async function arriving(courseId: number, userId: string): Promise<Arriving> {
  const id = randomUUID();
  // Under a name of its own until it is whole: others clear up meanwhile.
  const part = `${folderOf(id)}${PART}`;
  await mkdir(part, { recursive: true });
  await clearOld((await stat(part)).mtimeMs);
  const names: string[] = [];
  return {
    pathFor: (name) => join(part, String(names.push(fileName(name)) - 1)),
    keep: async () => {
      await writeTicket(part, { courseId, userId, at: now(), names, told: [] });
      await rename(part, folderOf(id));
      return id;
    },
    drop: () => rm(part, { recursive: true, force: true }),
  };
}

const writeTicket = (folder: string, ticket: Ticket) =>
  writeFile(join(folder, 'ticket.json'), JSON.stringify(ticket));

/** Keeps files that are in memory as an upload. */
export async function stage(
  courseId: number,
  userId: string,
  files: readonly UploadedFile[],
): Promise<string> {
  const upload = await arriving(courseId, userId);
  await Promise.all(files.map((file) => writeFile(upload.pathFor(file.name), file.bytes)));
  return upload.keep();
}

/** Notes how files of an upload are read, by their names. */
export async function noteMappings(
  id: string,
  courseId: number,
  userId: string,
  told: ReadonlyMap<string, Mapping>,
): Promise<void> {
  const ticket = await ownTicket(id, courseId, userId);
  await writeTicket(folderOf(id), {
    ...ticket,
    told: [...told].map(([name, mapping]) => ({ name, mapping })),
  });
}

/** Forgets an upload of which nothing can be read. */
export const unstage = (id: string): Promise<void> => rm(folderOf(id), { recursive: true, force: true });

/** A name from outside without its path, and not too long. */
export const fileName = (name: string): string => basename(name).slice(0, 200);

export interface Staged {
  readonly uploads: readonly StagedFile[];
  readonly told: ReadonlyMap<string, Mapping>;
}

/** Files staged by this user for this course; anybody else's are not found. */
export async function staged(id: string, courseId: number, userId: string): Promise<Staged> {
  const ticket = await ownTicket(id, courseId, userId);
  const uploads = await Promise.all(
    ticket.names.map(async (name, i) => {
      const path = join(folderOf(id), String(i));
      return { name, path, size: (await stat(path)).size };
    }),
  );
  return { uploads, told: new Map(ticket.told.map((t) => [t.name, t.mapping])) };
}

async function ownTicket(id: string, courseId: number, userId: string): Promise<Ticket> {
  const ticket = ID.test(id) ? await readTicket(id) : null;
  if (!ticket) throw notFound('upload any more; choose the files again');
  if (ticket.courseId !== courseId || ticket.userId !== userId) throw notFound('upload of yours');
  return ticket;
}

/** Ends the name of an upload that is not whole yet. */
const PART = '.part';

/** @param diskNow by the clock of the disk */
async function clearOld(diskNow: number): Promise<void> {
  const root = join(config().dataFolder, 'staging');
  if (!existsSync(root)) return;
  for (const name of await readdir(root)) {
    if (await isOld(root, name, diskNow)) await rm(join(root, name), { recursive: true, force: true });
  }
}

/** Whether an upload has had its day, or was left half by a stop. */
async function isOld(root: string, name: string, diskNow: number): Promise<boolean> {
  if (name.endsWith(PART)) {
    const about = await stat(join(root, name)).catch(() => null);
    // What is being written now is younger.
    return about != null && diskNow - about.mtimeMs > HOUR_MS;
  }
  const ticket = await readTicket(name);
  return !ticket || now() - ticket.at > DAY_MS;
}

/** The ticket of a staged upload; null if there is none or it was cut short. */
async function readTicket(id: string): Promise<Ticket | null> {
  const file = join(folderOf(id), 'ticket.json');
  if (!existsSync(file)) return null;
  try {
    return ticketSchema.validateSync(JSON.parse(await readFile(file, 'utf8')));
  } catch {
    return null;
  }
}
