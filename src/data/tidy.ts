import { sql } from 'drizzle-orm';
import type { Database } from './database';

/** Tables that an import fills: to know what is in them a sample is enough. */
const FILLED = ['events', 'scores', 'sessions', 'day_totals', 'activity_days', 'activity_totals'];
/** Small tables whose rows change with every import and evaluation, and that every page reads. */
const CHANGED = ['courses', 'enrolments', 'imports', 'jobs', 'measures', 'flags'];

/**
 * Lets the planner know what is in the tables after much has changed. A server does the rest by itself; the embedded
 * database never does, and reads ever more slowly around rows that are gone: the small tables are cleared of them. The
 * large ones are not, since everybody would wait for that.
 */
export async function tidy({ kind, orm }: Database): Promise<void> {
  for (const table of FILLED) await orm.execute(sql`analyze ${sql.identifier(table)}`);
  if (kind !== 'embedded') return;
  for (const table of CHANGED) await orm.execute(sql`vacuum analyze ${sql.identifier(table)}`);
}
