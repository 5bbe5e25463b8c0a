import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { drizzle as drizzleServer } from 'drizzle-orm/node-postgres';
import { migrate as migrateServer } from 'drizzle-orm/node-postgres/migrator';
import { drizzle as drizzleEmbedded } from 'drizzle-orm/pglite';
import { migrate as migrateEmbedded } from 'drizzle-orm/pglite/migrator';
import type { PGlite } from '@electric-sql/pglite';
import type pg from 'pg';
import * as yup from 'yup';

export const MIGRATIONS = join(process.cwd(), 'src/data/migrations');

/** Held while tables are brought up to date: of several processes that start at once one does it, and the others wait. */
const LOCK = 7_254_318;

const journal = yup.object({
  entries: yup
    .array(yup.object({ tag: yup.string().required(), when: yup.number().required() }))
    .min(1)
    .required(),
});

/** The steps of the database, the first first. */
export const stepsIn = (folder: string) =>
  journal.validateSync(JSON.parse(readFileSync(join(folder, 'meta/_journal.json'), 'utf8'))).entries;

/** Data from before the first step that is kept: nothing brings it up to date. */
export class TooOldError extends Error {
  constructor() {
    super(
      'This data was made by a version from before the first release and can’t be opened. Choose another data folder or database; for the demo, start over with: npm run demo -- --fresh',
    );
    this.name = 'TooOldError';
  }
}

/** What asks a database. */
interface Asked {
  query(text: string): Promise<{ readonly rows: unknown[] }>;
}
const there = yup.object({ there: yup.boolean().required() });
const latest = yup.object({ at: yup.number().nullable().defined() });

async function refuseTooOld(client: Asked): Promise<void> {
  const { rows } = await client.query(
    `select to_regclass('drizzle.__drizzle_migrations') is not null as there`,
  );
  if (!there.validateSync(rows[0]).there) return;
  const found = await client.query('select max(created_at) as at from drizzle.__drizzle_migrations');
  const { at } = latest.validateSync(found.rows[0]);
  if (at != null && at < stepsIn(MIGRATIONS)[0]!.when) throw new TooOldError();
}

/** Brings an embedded database up to date; the folder's lock keeps every other process out. */
export async function migrateFolder(client: PGlite): Promise<void> {
  await refuseTooOld(client);
  await migrateEmbedded(drizzleEmbedded(client), { migrationsFolder: MIGRATIONS });
}

/** Brings a database on a server up to date, one process at a time. */
export async function migrateServerDatabase(pool: pg.Pool): Promise<void> {
  const client = await pool.connect();
  try {
    const orm = drizzleServer(client);
    await orm.execute(sql`select pg_advisory_lock(${LOCK})`);
    try {
      await refuseTooOld(client);
      await migrateServer(orm, { migrationsFolder: MIGRATIONS });
    } finally {
      await orm.execute(sql`select pg_advisory_unlock(${LOCK})`);
    }
  } finally {
    client.release();
  }
}
