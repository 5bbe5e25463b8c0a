import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { and, asc, eq, isNull, lt, sql } from 'drizzle-orm';
import * as yup from 'yup';
import type { Mapping } from '@/core/course/mapping';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { DAY_MS, HOUR_MS } from '@/core/units';
import type { Access, Database } from '@/data/database';
import { uploadPieces, uploads } from '@/data/schema';
import { now, nowDate } from '../base/clock';
import { config } from '../base/config';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import type { StagedFile, UploadedFile } from './upload';

/** How files of a foreign make are read, by their names. */
const toldSchema = yup
  .array(yup.object({ name: yup.string().required(), mapping: mappingSchema }))
  .required();

const root = () => join(config().dataFolder, 'staging');
const folderOf = (id: string) => join(root(), id);
const ID = /^[0-9a-f-]{36}$/;

/** Where an upload is kept while it comes in. */
export interface Arriving {
  /** The path for the next file; a name from outside never becomes one. */
  readonly pathFor: (name: string) => string;
  /**
   * Keeps what came until it is imported or a day has gone by. Returns the id to ask for it by.
   *
   * @param named the name of a single file, where it is known only now
   */
  readonly keep: (named?: string) => Promise<string>;
  /** Forgets what came. */
  readonly drop: () => Promise<void>;
}

/** Begins to keep an upload, or with null an e-mail: nobody finds it before it is whole. */
export async function arriving(courseId: number | null, userId: string | null = null): Promise<Arriving> {
  const id = randomUUID();
  const part = await newPart(id);
  const db = await database();
  await clearOld(db, (await stat(part)).mtimeMs);
  const names: string[] = [];
  return {
    pathFor: (name) => join(part, String(names.push(fileName(name)) - 1)),
    keep: async (named) => {
      if (named != null) names[0] = fileName(named);
      await rename(part, folderOf(id));
      await db.transaction(async (tx) => {
        await tx.orm.insert(uploads).values({ id, courseId, userId, at: nowDate(), names, told: [] });
        // One process has the folder of an embedded database to itself.
        if (db.kind === 'server') for (const i of names.keys()) await shareFile(tx, id, i);
      });
      return id;
    },
    drop: () => rm(part, { recursive: true, force: true }),
  };
}

/** A folder under a name of its own until what is in it is whole: others clear up meanwhile. */
async function newPart(id: string): Promise<string> {
  const part = `${folderOf(id)}${randomUUID().slice(0, 8)}${PART}`;
  await mkdir(part, { recursive: true });
  return part;
}

/** Bytes of a file that are written to the database, or read from it, together. */
const PIECE = 1 << 20;

/** Puts a file where every process that works on the database finds it. */
async function shareFile({ orm }: Access, uploadId: string, file: number): Promise<void> {
  const handle = await open(join(folderOf(uploadId), String(file)));
  try {
    for (let piece = 0; ; piece++) {
      const content = Buffer.alloc(PIECE);
      const { bytesRead } = await handle.read(content, 0, PIECE, piece * PIECE);
      if (bytesRead === 0) return;
      await orm
        .insert(uploadPieces)
        .values({ uploadId, file, piece, content: content.subarray(0, bytesRead) });
    }
  } finally {
    await handle.close();
  }
}

/** Makes the files of an upload that another process took, on the disk of this one. */
async function fetchFiles({ orm }: Database, id: string, names: readonly string[]): Promise<void> {
  const part = await newPart(id);
  for (const i of names.keys()) {
    const handle = await open(join(part, String(i)), 'w');
    try {
      for (let piece = 0; ; piece++) {
        const [row] = await orm
          .select({ content: uploadPieces.content })
          .from(uploadPieces)
          .where(and(eq(uploadPieces.uploadId, id), eq(uploadPieces.file, i), eq(uploadPieces.piece, piece)));
        if (!row) break;
        await handle.write(row.content);
      }
    } finally {
      await handle.close();
    }
  }
  // Somebody else in this process may have been quicker.
  await rename(part, folderOf(id)).catch(() => rm(part, { recursive: true, force: true }));
}

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
  await ownUpload(id, courseId, userId);
  const { orm } = await database();
  await orm
    .update(uploads)
    .set({ told: [...told].map(([name, mapping]) => ({ name, mapping })) })
    .where(eq(uploads.id, id));
}

/** Forgets an upload of which nothing can be read. */
export async function unstage(id: string): Promise<void> {
  const { orm } = await database();
  await orm.delete(uploads).where(eq(uploads.id, id));
  await rm(folderOf(id), { recursive: true, force: true });
}

/** A name from outside without its path, and not too long. */
export const fileName = (name: string): string => basename(name).slice(0, 200);

export interface Staged {
  readonly uploads: readonly StagedFile[];
  readonly told: ReadonlyMap<string, Mapping>;
}

/** Files staged by this user for this course; anybody else's are not found. */
export async function staged(id: string, courseId: number, userId: string): Promise<Staged> {
  const { names, told } = await ownUpload(id, courseId, userId);
  if (!(await isHere(id, names))) throw GONE();
  const files = await Promise.all(
    names.map(async (name, i) => {
      const path = join(folderOf(id), String(i));
      return { name, path, size: (await stat(path)).size };
    }),
  );
  return { uploads: files, told: new Map(toldSchema.validateSync(told).map((t) => [t.name, t.mapping])) };
}

/** Whether the files of an upload are on this disk; where several processes work, they are fetched. */
async function isHere(id: string, names: readonly string[]): Promise<boolean> {
  if (existsSync(folderOf(id))) return true;
  const db = await database();
  if (db.kind === 'embedded') return false;
  await fetchFiles(db, id, names);
  return true;
}

/** Where an e-mail that came in stands on the disk; null if it is gone. */
export async function stagedMail(id: string): Promise<string | null> {
  const { orm } = await database();
  const [found] = ID.test(id)
    ? await orm
        .select({ names: uploads.names })
        .from(uploads)
        .where(and(eq(uploads.id, id), isNull(uploads.courseId), isNull(uploads.userId)))
    : [];
  return found && (await isHere(id, found.names)) ? join(folderOf(id), '0') : null;
}

const GONE = () => notFound('upload any more; choose the files again');

async function ownUpload(id: string, courseId: number, userId: string) {
  const { orm } = await database();
  const [found] = ID.test(id) ? await orm.select().from(uploads).where(eq(uploads.id, id)) : [];
  if (!found) throw GONE();
  if (found.courseId !== courseId || found.userId !== userId) throw notFound('upload of yours');
  return found;
}

/** Ends the name of an upload that is not whole yet. */
const PART = '.part';

/** @param diskNow by the clock of the disk */
async function clearOld({ orm }: Database, diskNow: number): Promise<void> {
  const inUse = sql`exists (select 1 from jobs j where j.state in ('queued', 'running')
    and j.payload ->> 'upload' = ${uploads.id}) or exists (select 1 from feed_files f
    where f.state in ('waiting', 'unlike') and f.upload_id = ${uploads.id}) or exists (select 1 from replies r
    where r.upload_id = ${uploads.id})`;
  await orm.delete(uploads).where(and(lt(uploads.at, new Date(now() - DAY_MS)), sql`not (${inUse})`));
  if (!existsSync(root())) return;
  const rows = await orm.select({ id: uploads.id }).from(uploads).orderBy(asc(uploads.id));
  const known = new Set(rows.map((r) => r.id));
  for (const name of await readdir(root())) {
    if (known.has(name)) continue;
    const about = await stat(folderOf(name)).catch(() => null);
    // What is being written now is younger.
    if (about != null && diskNow - about.mtimeMs > (name.endsWith(PART) ? HOUR_MS : 60_000))
      await rm(folderOf(name), { recursive: true, force: true });
  }
}
