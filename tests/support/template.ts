import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import pg from 'pg';
import { migrateFolder, migrateServerDatabase } from '@/data/migrate';

/** The name of the database on a server that each test file's own is a copy of. */
export const SERVER_TEMPLATE = 'lantern_template';

/** One database on the server, migrated. */
async function onServer(url: string): Promise<void> {
  const admin = new pg.Client({ connectionString: url });
  await admin.connect();
  await admin.query(`DROP DATABASE IF EXISTS ${SERVER_TEMPLATE} WITH (FORCE)`);
  await admin.query(`CREATE DATABASE ${SERVER_TEMPLATE}`);
  await admin.end();
  const own = new URL(url);
  own.pathname = `/${SERVER_TEMPLATE}`;
  const pool = new pg.Pool({ connectionString: own.toString() });
  await migrateServerDatabase(pool);
  await pool.end();
}

/** An empty, migrated database in a folder, and the same as one file: making one takes seconds, copying it less than one. */
async function embedded(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-template-'));
  mkdirSync(join(folder, 'data'));
  const client = await PGlite.create({ dataDir: join(folder, 'data/db') });
  await migrateFolder(client);
  const file = join(folder, 'template.tar');
  writeFileSync(file, Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer()));
  await client.close();
  process.env.LANTERN_TEST_TEMPLATE = file;
  process.env.LANTERN_TEST_FOLDER = join(folder, 'data');
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
}

/** Makes a data folder whose database is empty and migrated. */
export function emptyFolder(folder: string): string {
  cpSync(process.env.LANTERN_TEST_FOLDER!, folder, { recursive: true });
  return folder;
}

/** Before the tests: one database, migrated and kept for each test file to begin with. Both projects ask; it is made once. */
export default async function setup(): Promise<void> {
  const server = process.env.LANTERN_TEST_SERVER;
  if (server) await onServer(server);
  else if (!process.env.LANTERN_TEST_FOLDER) await embedded();
}
