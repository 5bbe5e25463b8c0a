import { getTableColumns, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core';

/** What an upsert sets: every column of a table as the row that was refused has it, but for some. */
export function excluded(table: PgTable, but: readonly AnyPgColumn[]): Record<string, SQL> {
  return Object.fromEntries(
    Object.entries(getTableColumns(table))
      .filter(([, column]) => !but.includes(column) && column.generatedIdentity === undefined)
      .map(([name, column]) => [name, sql`excluded.${sql.identifier(column.name)}`]),
  );
}
