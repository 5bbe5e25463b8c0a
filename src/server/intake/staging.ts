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
import type { UploadedFile } from './upload';

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

/** Keeps uploaded files until they are imported or a day has gone by. Returns the id to ask for them by. */
export async function stage(
  courseId: number,
  userId: string,
  files: readonly UploadedFile[],
  told: ReadonlyMap<string, Mapping>,
): Promise<string> {
  const id = randomUUID();
  // Under a name of its own until it is whole: others clear up meanwhile.
  const part = `${folderOf(id)}${PART}`;
  await mkdir(part, { recursive: true });
  await clearOld((await stat(part)).mtimeMs);
  // Files are stored under numbers: a name from outside never becomes a path.
  await Promise.all(files.map((file, i) => writeFile(join(part, String(i)), file.bytes)));
  const ticket: Ticket = {
    courseId,
    userId,
    at: now(),
    names: files.map((f) => fileName(f.name)),
    told: [...told].map(([name, mapping]) => ({ name, mapping })),
  };
  await writeFile(join(part, 'ticket.json'), JSON.stringify(ticket));
  await rename(part, folderOf(id));
  return id;
}

/** A name from outside without its path, and not too long. */
export const fileName = (name: string): string => basename(name).slice(0, 200);

export interface Staged {
  readonly uploads: readonly UploadedFile[];
  readonly told: ReadonlyMap<string, Mapping>;
}

/** Files staged by this user for this course; anybody else's are not found. */
export async function staged(id: string, courseId: number, userId: string): Promise<Staged> {
  const ticket = ID.test(id) ? await readTicket(id) : null;
  if (!ticket) throw notFound('upload any more; choose the files again');
  if (ticket.courseId !== courseId || ticket.userId !== userId) throw notFound('upload of yours');
  const uploads = await Promise.all(
    ticket.names.map(async (name, i) => ({ name, bytes: await readFile(join(folderOf(id), String(i))) })),
  );
  return { uploads, told: new Map(ticket.told.map((t) => [t.name, t.mapping])) };
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
