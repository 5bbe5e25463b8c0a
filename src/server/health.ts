import { sql } from 'drizzle-orm';
import { database } from './base/database';

/** What is known of the database: `slow` has not answered yet. */
export type DatabaseState = 'up' | 'slow' | 'down';

const holder = globalThis as typeof globalThis & { lanternProbe?: Promise<DatabaseState> };

/** How long an answer about health waits for the database. */
const PATIENCE_MS = 50;

/** Asks the database, once at a time however many ask. */
function probe(): Promise<DatabaseState> {
  holder.lanternProbe ??= (async (): Promise<DatabaseState> => {
    try {
      await (await database()).orm.execute(sql`select 1`);
      return 'up';
    } catch {
      return 'down';
    } finally {
      holder.lanternProbe = undefined;
    }
  })();
  return holder.lanternProbe;
}

/** How the database is, said within a twentieth of a second whatever it does. */
export function databaseState(): Promise<DatabaseState> {
  let timer: NodeJS.Timeout;
  const patience = new Promise<DatabaseState>((resolve) => {
    timer = setTimeout(() => resolve('slow'), PATIENCE_MS);
  });
  return Promise.race([probe(), patience]).finally(() => clearTimeout(timer));
}
