import { and, eq } from 'drizzle-orm';
import type { Access } from '../database';
import { persons } from '../schema';
import { idsIn } from './idsIn';

/** Those of some persons who want no messages by e-mail. */
export async function withoutCopies(
  { orm }: Access,
  personIds: readonly number[],
): Promise<ReadonlySet<number>> {
  const rows = await orm
    .select({ id: persons.id })
    .from(persons)
    .where(and(idsIn(persons.id, personIds), eq(persons.mailCopies, false)));
  return new Set(rows.map((r) => r.id));
}
