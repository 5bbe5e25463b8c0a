import { sql } from 'drizzle-orm';
import { database } from './database';

/** Throws if the database does not answer. */
export async function checkHealth(): Promise<void> {
  await (await database()).orm.execute(sql`select 1`);
}
