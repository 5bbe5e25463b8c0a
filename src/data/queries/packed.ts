import { sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';

type Value = AnyPgColumn | SQL;

/** An instant as milliseconds since 1970, as text; empty where there is none. */
export const packedInstant = (column: AnyPgColumn): SQL =>
  sql`coalesce((extract(epoch from ${column}) * 1000)::bigint::text, '')`;

/**
 * The rows of a group as one text, for `unpack`: ten thousand rows take several times as long to hand over one by one.
 * None of the values may be null, or hold a comma.
 */
export const packed = (values: readonly Value[], order?: AnyPgColumn): SQL<string> =>
  sql<string>`string_agg(concat_ws(',', ${sql.join([...values], sql`, `)}), ','${order ? sql` order by ${order}` : sql``})`;

/** Reads what `packed` wrote: `row` makes one of the texts of each row, in their order. */
export function unpack<T>(text: string, width: number, row: (value: (place: number) => string) => T): T[] {
  const all = text.split(',');
  if (all.length % width !== 0)
    throw new Error(`${all.length} values are no whole number of rows of ${width}`);
  return Array.from({ length: all.length / width }, (_, i) => row((place) => all[i * width + place]!));
}
