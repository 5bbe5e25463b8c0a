import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { holdFolder } from '@/data/lock';
import { now } from '@/server/base/clock';
import { config } from '@/server/base/config';
import { database } from '@/server/base/database';
import { demoSignIns, seedDemo } from './seed';

/** Makes the demo data once, and says on its last line who can sign in. `--fresh` throws away what is there (the embedded database only). */
async function main(): Promise<void> {
  const { dataFolder, databaseUrl } = config();
  if (process.argv.includes('--fresh')) {
    if (databaseUrl)
      throw new Error('--fresh is for the embedded database; empty a PostgreSQL server yourself.');
    await mkdir(dataFolder, { recursive: true });
    // What another process is using must not go from under it.
    const hold = await holdFolder(dataFolder, 'the demo set-up');
    for (const part of ['db', 'mail', 'staging', 'examples', 'inbox']) {
      await rm(join(dataFolder, part), { recursive: true, force: true });
    }
    hold.release();
  }
  const db = await database('the demo set-up');
  await seedDemo(db, now(), dataFolder, (line) => console.log(line));
  await db.close();
  console.log(JSON.stringify(demoSignIns(now())));
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
