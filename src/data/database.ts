import { AsyncLocalStorage } from 'node:async_hooks';
import { existsSync, mkdirSync, statfsSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { PGlite, type Transaction } from '@electric-sql/pglite';
import type { ExtractTablesWithRelations } from 'drizzle-orm';
import { drizzle as drizzleServer } from 'drizzle-orm/node-postgres';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzleEmbedded } from 'drizzle-orm/pglite';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { FolderFullError, holdFolder, type Hold } from './lock';
import { migrateFolder, migrateServerDatabase } from './migrate';
import * as schema from './schema';
import { counted, inForeground, turn } from './turn';

/** The query builder, the same over the embedded database and over a server. */
export type Orm = PgDatabase<PgQueryResultHKT, typeof schema, ExtractTablesWithRelations<typeof schema>>;

/** What a use case gets to work with, inside a transaction or not. */
export interface Access {
  readonly orm: Orm;
  /** Appends rows to a table by COPY. `csv` holds them as written by `copyLine`. */
  copy(table: string, columns: readonly string[], csv: string): Promise<void>;
}

export interface Database extends Access {
  readonly kind: 'embedded' | 'server';
  /** Runs `work` in one transaction: all of it is kept, or, if it throws, nothing. */
  transaction<T>(work: (tx: Access) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

const copyStatement = (table: string, columns: readonly string[], source: string) =>
  `COPY ${table} (${columns.map((c) => `"${c}"`).join(', ')}) FROM ${source} WITH (FORMAT csv)`;

/** One record for `copy`: null is an empty unquoted field. */
export function copyLine(values: readonly (string | number | boolean | Date | null)[]): string {
  let line = '';
  for (let i = 0; i < values.length; i++) {
    if (i > 0) line += ',';
    const value = values[i];
    if (value == null) continue;
    if (typeof value === 'string') line += `"${value.includes('"') ? value.replaceAll('"', '""') : value}"`;
    else if (value instanceof Date) line += value.toISOString();
    else line += String(value);
  }
  return `${line}\n`;
}

/** Characters copied together: few enough that their text is small beside the rows. */
const COPIED = 1 << 15;

/**
 * Appends many rows to a table, some at a time; the embedded database works on this very thread, so others have their
 * turn in between. `lines` are as written by `copyLine`.
 */
export async function copyLines(
  access: Access,
  table: string,
  columns: readonly string[],
  lines: Iterable<string>,
): Promise<void> {
  let csv = '';
  for (const line of lines) {
    csv += line;
    if (csv.length < COPIED) continue;
    await access.copy(table, columns, csv);
    await turn();
    csv = '';
  }
  await access.copy(table, columns, csv);
}

/** The transaction of an embedded database that the work under way holds. */
const inTransaction = new AsyncLocalStorage<{ readonly client: PGlite; open: boolean }>();

/**
 * The embedded database does one thing at a time: whoever holds a transaction and asks outside of it waits for
 * themselves for ever. Such a slip fails at once instead.
 */
function guard(client: PGlite): void {
  const query = client.query.bind(client);
  client.query = ((...args: Parameters<PGlite['query']>) => {
    const held = inTransaction.getStore();
    if (held?.open && held.client === client)
      throw new Error('asked outside of the transaction that is open');
    return counted(() => query(...args));
  }) as PGlite['query'];
}

/** The least that the embedded database writes when it opens: a piece of its log. */
const OPENING_BYTES = 16 * 1024 * 1024;

async function openClient(folder: string | null, template: Blob | undefined): Promise<PGlite> {
  try {
    return await PGlite.create({
      ...(folder ? { dataDir: join(folder, 'db') } : {}),
      ...(template ? { loadDataDir: template } : {}),
    });
  } catch (error) {
    // It does not say why it cannot; a full disk is the one reason that people can do something about.
    if (folder) {
      const { bavail, bsize } = statfsSync(folder);
      if (bavail * bsize < OPENING_BYTES) throw new FolderFullError(folder, error);
    }
    throw error;
  }
}

/**
 * Opens the embedded database in a folder (made if missing), or in memory if the folder is null, and brings its
 * tables up to date.  Refuses with `FolderHeldError` if another process has the folder open.
 *
 * @param template a copy of a database to begin with, where making an empty one takes too long
 */
export async function openEmbedded(
  folder: string | null,
  purpose: string,
  template?: Blob,
): Promise<Database> {
  let hold: Hold | null = null;
  if (folder) {
    if (!existsSync(folder)) mkdirSync(folder, { recursive: true });
    hold = await holdFolder(folder, purpose);
  }
  try {
    const client = await openClient(folder, template);
    guard(client);
    const orm = drizzleEmbedded(client, { schema });
    await migrateFolder(client);
    const access = (runner: PGlite | Transaction): Access['copy'] => {
      return async (table, columns, csv) => {
        if (csv === '') return;
        await runner.query(copyStatement(table, columns, "'/dev/blob'"), [], { blob: new Blob([csv]) });
      };
    };
    return {
      kind: 'embedded',
      orm,
      copy: access(client),
      // Everybody waits for what a transaction holds, whoever began it.
      transaction: (work) =>
        counted(() =>
          client.transaction((tx) => {
            const held = { client, open: true };
            return inTransaction.run(held, () =>
              inForeground(async () => {
                try {
                  // The query builder only ever asks its client to query, which a transaction does as well.
                  const inside = drizzleEmbedded(tx as unknown as PGlite, { schema });
                  return await work({ orm: inside, copy: access(tx) });
                } finally {
                  held.open = false;
                }
              }),
            );
          }),
        ),
      close: async () => {
        await client.close();
        hold?.release();
      },
    };
  } catch (error) {
    hold?.release();
    throw error;
  }
}

/** Opens a database on a PostgreSQL server and brings its tables up to date. */
export async function openServer(url: string): Promise<Database> {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  // An idle connection that the server drops must not end the process; the next query opens another.
  pool.on('error', () => undefined);
  const orm = drizzleServer(pool, { schema });
  try {
    await migrateServerDatabase(pool);
  } catch (error) {
    await pool.end();
    throw error;
  }
  const access = (client: pg.PoolClient): Access['copy'] => {
    return async (table, columns, csv) => {
      if (csv === '') return;
      await pipeline(Readable.from([csv]), client.query(copyFrom(copyStatement(table, columns, 'STDIN'))));
    };
  };
  return {
    kind: 'server',
    orm,
    copy: async (table, columns, csv) => {
      const client = await pool.connect();
      try {
        await access(client)(table, columns, csv);
      } finally {
        client.release();
      }
    },
    transaction: async (work) => {
      const client = await pool.connect();
      let broken = false;
      try {
        await client.query('BEGIN');
        const result = await work({ orm: drizzleServer(client, { schema }), copy: access(client) });
        await client.query('COMMIT');
        return result;
      } catch (error) {
        await client.query('ROLLBACK').catch(() => (broken = true));
        throw error;
      } finally {
        client.release(broken);
      }
    },
    close: () => pool.end(),
  };
}
