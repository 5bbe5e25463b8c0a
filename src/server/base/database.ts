import { openEmbedded, openServer, type Database } from '@/data/database';
import { config } from './config';

/** One database a process, however often the module is loaded: its promise lives on the global object. */
const holder = globalThis as typeof globalThis & { lanternDatabase?: Promise<Database> };

/** The database of this process, opened at the first call. A failed opening is tried again at the next call. */
export function database(purpose = 'the Ready Lantern server'): Promise<Database> {
  holder.lanternDatabase ??= open(purpose).catch((error: unknown) => {
    holder.lanternDatabase = undefined;
    throw error;
  });
  return holder.lanternDatabase;
}

function open(purpose: string): Promise<Database> {
  const { databaseUrl, dataFolder } = config();
  return databaseUrl ? openServer(databaseUrl) : openEmbedded(dataFolder, purpose);
}

/** Uses an already open database as that of the process: for tests and tools. */
export function setDatabase(db: Database): void {
  holder.lanternDatabase = Promise.resolve(db);
}
