import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import * as yup from 'yup';
import type { Mapping } from '@/core/formats/mapping/mapping';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { DAY_MS } from '@/core/units';
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
  await clearOld();
  const id = randomUUID();
  await mkdir(folderOf(id), { recursive: true });
  // Files are stored under numbers: a name from outside never becomes a path.
  await Promise.all(files.map((file, i) => writeFile(join(folderOf(id), String(i)), file.bytes)));
  const ticket: Ticket = {
    courseId,
    userId,
    at: now(),
    names: files.map((f) => fileName(f.name)),
    told: [...told].map(([name, mapping]) => ({ name, mapping })),
  };
  await writeFile(join(folderOf(id), 'ticket.json'), JSON.stringify(ticket));
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

async function clearOld(): Promise<void> {
  const root = join(config().dataFolder, 'staging');
  if (!existsSync(root)) return;
  for (const name of await readdir(root)) {
    const ticket = await readTicket(name);
    if (!ticket || now() - ticket.at > DAY_MS) await rm(join(root, name), { recursive: true, force: true });
  }
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
