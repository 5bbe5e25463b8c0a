import { eq } from 'drizzle-orm';
import type { Instant } from '@/core/units';
import type { Access } from '../database';
import { persons } from '../schema';

/** Why mail to a person does not arrive, and since when; null as long as it does, as far as anybody knows. */
export async function mailFaultOf(
  { orm }: Access,
  personId: number,
): Promise<{ readonly why: string; readonly at: Instant } | null> {
  const [row] = await orm
    .select({ why: persons.mailFault, at: persons.mailFaultAt })
    .from(persons)
    .where(eq(persons.id, personId));
  return row?.why != null && row.at != null ? { why: row.why, at: row.at.getTime() } : null;
}
