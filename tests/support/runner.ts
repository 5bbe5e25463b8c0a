import { openServer } from '@/data/database';
import { setDatabase } from '@/server/base/database';
import { startRunner } from '@/server/jobs/runner';
import { HANDLERS } from '@/server/work';

/** A process that works the queue of a PostgreSQL server off, until it is killed. */
async function main(): Promise<void> {
  const db = await openServer(process.env.DATABASE_URL!);
  setDatabase(db);
  await startRunner(db, HANDLERS);
  process.stdout.write('at work\n');
}

void main();
