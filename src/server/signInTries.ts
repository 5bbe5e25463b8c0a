import { createHash, randomUUID } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { MINUTE_MS } from '@/core/units';
import type { Database } from '@/data/database';
import { rateLimit } from '@/data/schema';
import { now } from './clock';

/** Tries at one account in a while; then nobody may try it until the while is over. */
export const MOST_TRIES = 10;
const WHILE_MS = 5 * MINUTE_MS;

/** The key of an account: a digest, so that no address stands in this table. */
const keyOf = (email: string) => `try:${createHash('sha256').update(email).digest('hex')}`;

/** Counts a try at an account and says whether it may go on. One statement, so that tries at once all count. */
export async function mayTry({ orm }: Database, email: string): Promise<boolean> {
  const at = now();
  const over = sql`${rateLimit.lastRequest} < ${at - WHILE_MS}`;
  const [row] = await orm
    .insert(rateLimit)
    .values({ id: randomUUID(), key: keyOf(email), count: 1, lastRequest: at })
    .onConflictDoUpdate({
      target: rateLimit.key,
      set: {
        count: sql`case when ${over} then 1 else ${rateLimit.count} + 1 end`,
        lastRequest: sql`case when ${over} then ${at} else ${rateLimit.lastRequest} end`,
      },
    })
    .returning({ count: rateLimit.count });
  return row!.count <= MOST_TRIES;
}

/** Forgets the tries at an account, after its owner has signed in. */
export async function forgetTries({ orm }: Database, email: string): Promise<void> {
  await orm.delete(rateLimit).where(eq(rateLimit.key, keyOf(email)));
}
