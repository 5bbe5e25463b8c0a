import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import { describe, expect, it, onTestFinished } from 'vitest';
import { openServer } from './database';
import { migrateFolder, MIGRATIONS, stepsIn, TooOldError } from './migrate';

const STEPS = stepsIn(MIGRATIONS);
/** Data as somebody kept it at a step: a new step brings its own, which every later one must keep. */
const keptAt = (tag: string) => join(process.cwd(), `tests/upgrade/${tag}.sql`);

/** The steps up to one. */
function upTo(count: number): string {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-steps-'));
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
  cpSync(MIGRATIONS, folder, { recursive: true });
  const file = join(folder, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(file, 'utf8')) as { entries: unknown[] };
  writeFileSync(file, JSON.stringify({ ...journal, entries: journal.entries.slice(0, count) }));
  return folder;
}

/** Tables and columns, as the database has them. */
const shapeOf = async (client: PGlite) =>
  (
    await client.query<{ of: string }>(
      `select table_name || '.' || column_name || ' ' || data_type || ' ' || is_nullable as of
       from information_schema.columns where table_schema = 'public' order by 1`,
    )
  ).rows.map((r) => r.of);

describe('an upgrade', () => {
  it('has data to keep for each of its steps', () =>
    expect(STEPS.filter((s) => !existsSync(keptAt(s.tag)))).toEqual([]));

  it('keeps what was there at each step, and ends where a new database begins', async () => {
    const client = await PGlite.create();
    onTestFinished(() => client.close());
    const counts = new Map<string, number>();
    for (const [i, { tag }] of STEPS.entries()) {
      await migrate(drizzle(client), { migrationsFolder: upTo(i + 1) });
      await client.exec(readFileSync(keptAt(tag), 'utf8'));
      for (const [, table] of readFileSync(keptAt(tag), 'utf8').matchAll(/insert into "?(\w+)"?/g))
        counts.set(table!, (counts.get(table!) ?? 0) + 1);
    }
    for (const [table, kept] of counts) {
      const { rows } = await client.query<{ n: number }>(`select count(*)::int as n from "${table}"`);
      expect(rows[0]!.n, table).toBe(kept);
    }
    // What is computed in the database reads it: an item given to everybody is right.
    const { rows } = await client.query('select score from answers_now');
    expect(rows).toEqual([{ score: 1 }]);
    const fresh = await PGlite.create();
    onTestFinished(() => fresh.close());
    await migrateFolder(fresh);
    expect(await shapeOf(client)).toEqual(await shapeOf(fresh));
  });

  it('of data from before the first step is refused in words', async () => {
    const client = await PGlite.create();
    onTestFinished(() => client.close());
    await client.exec(`create schema drizzle;
      create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint);
      insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', 1);`);
    await expect(migrateFolder(client)).rejects.toThrow(TooOldError);
  });

  it.runIf(process.env.LANTERN_TEST_SERVER)(
    'is done once by those who start at the same moment',
    async () => {
      const admin = new pg.Client({ connectionString: process.env.LANTERN_TEST_SERVER });
      await admin.connect();
      const name = `upgrade_${process.pid}_${Date.now()}`;
      await admin.query(`create database ${name}`);
      const url = new URL(process.env.LANTERN_TEST_SERVER!);
      url.pathname = `/${name}`;
      const all = await Promise.all(Array.from({ length: 4 }, () => openServer(url.toString())));
      const rows = await Promise.all(
        all.map((db) => db.orm.execute(sql`select count(*)::int as n from drizzle.__drizzle_migrations`)),
      );
      for (const found of rows)
        expect((found as unknown as { rows: unknown[] }).rows).toEqual([{ n: STEPS.length }]);
      for (const db of all) await db.close();
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  );
});
