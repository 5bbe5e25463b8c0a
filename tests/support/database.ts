import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { openEmbedded, openServer, type Database } from '@/data/database';
import { setDatabase } from '@/server/base/database';
import { rereadConfig } from '@/server/base/config';
import { SERVER_TEMPLATE } from './template';

export interface TestDatabase {
  readonly db: Database;
  /** The data folder that the configuration points to. */
  readonly folder: string;
  readonly close: () => Promise<void>;
}

/**
 * A new, empty database of the kind this run is for: embedded in memory, or, with LANTERN_TEST_SERVER (a connection
 * to a PostgreSQL server), a database of its own on that server. It becomes the database of the process.
 */
export async function testDatabase(): Promise<TestDatabase> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-test-'));
  process.env.LANTERN_DATA = folder;
  rereadConfig();
  const server = process.env.LANTERN_TEST_SERVER;
  const opened = server
    ? await onServer(server)
    : { db: await openEmbedded(null, 'a test', template()), drop: async () => undefined };
  setDatabase(opened.db);
  return {
    db: opened.db,
    folder,
    close: async () => {
      await opened.db.close();
      await opened.drop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** The empty, migrated database that the run made once; making one takes seconds, copying it less than one. */
export function template(): Blob | undefined {
  const file = process.env.LANTERN_TEST_TEMPLATE;
  return file ? new Blob([readFileSync(file)]) : undefined;
}

async function onServer(url: string) {
  const name = `test_${process.pid}_${Math.random().toString(36).slice(2, 10)}`;
  const admin = async (statement: string) => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    await client.query(statement);
    await client.end();
  };
  await admin(`CREATE DATABASE ${name} TEMPLATE ${SERVER_TEMPLATE}`);
  const own = new URL(url);
  own.pathname = `/${name}`;
  return { db: await openServer(own.toString()), drop: () => admin(`DROP DATABASE ${name} WITH (FORCE)`) };
}
