import type { Database } from '@/data/database';
import { sweepVersions } from '@/data/write/versions';
import { queueSweep } from '../derive/outdated';
import { dropDead } from './arrival';

/** How long an import that is on its way is left alone before it is looked at again. */
const LATER_MS = 60_000;

/** Removes what nobody sees of a course: what imports left that were stopped, and derived rows that held before. */
export async function sweep(db: Database, courseId: number): Promise<void> {
  const arriving = await dropDead(db, courseId);
  await sweepVersions(db, courseId);
  if (arriving) await queueSweep(db, courseId, LATER_MS);
}
