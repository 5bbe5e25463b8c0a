import { openEmbedded } from '@/data/database';
import { persons } from '@/data/schema';

/** Opens a data folder, writes a row, says so and keeps the folder until it is killed. */
async function hold(folder: string): Promise<void> {
  const db = await openEmbedded(folder, 'the holder of the test');
  await db.orm.insert(persons).values({ externalId: 'kept', given: 'K', family: 'K' });
  console.info('written');
  setInterval(() => undefined, 1000);
}

void hold(process.argv[2]!);
