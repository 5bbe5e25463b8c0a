import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';

/** Before the database tests: one embedded database, migrated and kept in a file for each test file to begin with. */
export default async function setup(): Promise<(() => void) | undefined> {
  if (process.env.LANTERN_TEST_SERVER) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'lantern-template-'));
  const client = await PGlite.create();
  await migrate(drizzle(client), { migrationsFolder: join(process.cwd(), 'src/data/migrations') });
  const file = join(folder, 'template.tar');
  writeFileSync(file, Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer()));
  await client.close();
  process.env.LANTERN_TEST_TEMPLATE = file;
  return () => rmSync(folder, { recursive: true, force: true });
}
