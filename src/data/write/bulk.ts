import { getTableColumns, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Access } from '../database';
import { excluded } from './excluded';

type Row = Readonly<Record<string, unknown>>;
/** Rows of a table, all with the same columns. */
type RowsOf<T extends PgTable> = readonly T['$inferInsert'][];

/** Rows a statement; its text does not grow with them. */
const TOGETHER = 20_000;

/** A value as PostgreSQL writes it in text. */
function textOf(column: AnyPgColumn, value: unknown): string | null {
  if (value == null) return null;
  const driver: unknown = column.mapToDriverValue(value);
  if (typeof driver === 'string') return driver;
  return driver instanceof Date ? driver.toISOString() : String(driver as number | boolean);
}

/** Some columns of many rows as one table, each column one parameter. */
function unnested(columns: readonly (readonly [string, AnyPgColumn])[], rows: readonly Row[]): SQL {
  const arrays = columns.map(
    ([name, column]) => sql`${sql.param(rows.map((r) => textOf(column, r[name])))}::text[]`,
  );
  const names = columns.map(([, column]) => sql.identifier(column.name));
  return sql`unnest(${sql.join(arrays, sql`, `)}) as given(${sql.join(names, sql`, `)})`;
}

const typed = (column: AnyPgColumn): SQL =>
  sql`given.${sql.identifier(column.name)}::${sql.raw(column.getSQLType())}`;

const columnsOf = (table: PgTable, row: Row): [string, AnyPgColumn][] =>
  Object.entries(getTableColumns(table)).filter(([name]) => name in row);

/**
 * Inserts many rows by one statement for up to twenty thousand of them. All have the columns of the first.
 *
 * @param conflict what happens to rows that are there, as `on conflict …`
 * @param returning columns of the inserted rows to give back, by their names in the database
 */
export async function insertMany<T extends PgTable>(
  { orm }: Access,
  table: T,
  rows: RowsOf<T>,
  { conflict, returning = [] }: { readonly conflict?: SQL; readonly returning?: readonly AnyPgColumn[] } = {},
): Promise<Row[]> {
  const given: Row[] = [];
  const list = rows as readonly Row[];
  for (let i = 0; i < list.length; i += TOGETHER) {
    const columns = columnsOf(table, list[0]!);
    const names = columns.map(([, column]) => sql.identifier(column.name));
    const back =
      returning.length === 0
        ? sql``
        : sql` returning ${sql.join(
            returning.map((c) => sql`${table}.${sql.identifier(c.name)}`),
            sql`, `,
          )}`;
    const done = await orm.execute(sql`insert into ${table} (${sql.join(names, sql`, `)})
      select ${sql.join(
        columns.map(([, column]) => typed(column)),
        sql`, `,
      )} from ${unnested(columns, list.slice(i, i + TOGETHER))} ${conflict ?? sql``}${back}`);
    given.push(...(done as unknown as { rows: Row[] }).rows);
  }
  return given;
}

/** Inserts many rows, each in the place of the one with the same keys. No two of them have the same. */
export async function upsertMany<T extends PgTable>(
  access: Access,
  table: T,
  keys: readonly AnyPgColumn[],
  rows: RowsOf<T>,
): Promise<void> {
  if (rows.length === 0) return;
  const names = new Set(columnsOf(table, rows[0]! as Row).map(([name]) => name));
  const set = Object.entries(excluded(table, keys)).filter(([name]) => names.has(name));
  const columns = getTableColumns(table);
  const target = sql.join(
    keys.map((k) => sql.identifier(k.name)),
    sql`, `,
  );
  const action =
    set.length === 0
      ? sql`do nothing`
      : sql`do update set ${sql.join(
          set.map(([name, value]) => sql`${sql.identifier(columns[name]!.name)} = ${value}`),
          sql`, `,
        )}`;
  await insertMany(access, table, rows, { conflict: sql`on conflict (${target}) ${action}` });
}

/** Removes many rows by their keys, of which some may be null. */
export async function deleteMany<T extends PgTable>(
  { orm }: Access,
  table: T,
  keys: readonly AnyPgColumn[],
  rows: readonly Row[],
): Promise<void> {
  const columns = Object.entries(getTableColumns(table)).filter(([, column]) => keys.includes(column));
  for (let i = 0; i < rows.length; i += TOGETHER) {
    const same = columns.map(([, column]) => {
      const own = sql`${table}.${sql.identifier(column.name)}`;
      return column.notNull
        ? sql`${own} = ${typed(column)}`
        : sql`${own} is not distinct from ${typed(column)}`;
    });
    await orm.execute(sql`delete from ${table} using ${unnested(columns, rows.slice(i, i + TOGETHER))}
      where ${sql.join(same, sql` and `)}`);
  }
}
