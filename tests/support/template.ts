import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
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

/** Before the database tests: one database, migrated and kept for each test file to begin with. */
export default async function setup(): Promise<(() => void) | undefined> {
  const server = process.env.LANTERN_TEST_SERVER;
  if (server) {
    await onServer(server);
    return undefined;
  }
  const folder = mkdtempSync(join(tmpdir(), 'lantern-template-'));
  const client = await PGlite.create();
  await migrateFolder(client);
  const file = join(folder, 'template.tar');
  writeFileSync(file, Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer()));
  await client.close();
  process.env.LANTERN_TEST_TEMPLATE = file;
  return () => rmSync(folder, { recursive: true, force: true });
}
