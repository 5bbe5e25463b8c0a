import { createHash, randomUUID } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { MINUTE_MS, SECOND_MS } from '@/core/units';
import type { Database } from '@/data/database';
import { rateLimit } from '@/data/schema';
import { timeOfDay } from '../base/clock';

/** How often somebody may try at once before they must pause, and how long the longest pause is. */
export interface Patience {
  readonly free: number;
  readonly longestMs: number;
}

/** One sender at one account: a person who has forgotten a password, or who guesses at it. */
export const ONE_SENDER: Patience = { free: 5, longestMs: 5 * MINUTE_MS };
/** All senders together at one account, but for devices that its owner has signed in on. */
export const ALL_SENDERS: Patience = { free: 30, longestMs: MINUTE_MS };
/** One student at codes of courses. */
export const JOIN_CODES: Patience = { free: 8, longestMs: 5 * MINUTE_MS };

/** After this time without a try all is forgotten. */
const FORGOTTEN_MS = 60 * MINUTE_MS;

/** A digest: nobody's address stands in this table. */
const keyOf = (name: string) => `try:${createHash('sha256').update(name).digest('hex')}`;

/**
 * Counts a try under a name and says how long until the next may be made; 0 if this one may go on. From the last free
 * one on, each try doubles the pause: 1 s, 2 s, 4 s, up to the longest. One statement, so that tries at once all count;
 * what comes during a pause does not make it longer, so that nobody is locked out by who keeps knocking.
 */
export async function pauseBefore({ orm }: Database, name: string, patience: Patience): Promise<number> {
  const at = timeOfDay();
  const id = randomUUID();
  const { count, lastRequest } = rateLimit;
  const grown = sql`(${SECOND_MS}::bigint << least(${count} - ${patience.free}, 20))`;
  const pause = sql`case when ${count} < ${patience.free} then 0 else least(${grown}, ${patience.longestMs}::bigint) end`;
  const forgotten = sql`${lastRequest} < ${at - FORGOTTEN_MS}::bigint`;
  const waits = sql`(not ${forgotten} and ${lastRequest} + ${pause} > ${at}::bigint)`;
  const [row] = await orm
    .insert(rateLimit)
    .values({ id, key: keyOf(name), count: 1, lastRequest: at })
    .onConflictDoUpdate({
      target: rateLimit.key,
      set: {
        id: sql`case when ${waits} then ${rateLimit.id} else ${id} end`,
        count: sql`case when ${waits} then ${count} when ${forgotten} then 1 else ${count} + 1 end`,
        lastRequest: sql`case when ${waits} then ${lastRequest} else ${at}::bigint end`,
      },
    })
    .returning({ id: rateLimit.id, count, last: lastRequest });
  const { id: whose, count: tries, last } = row!;
  if (whose === id) return 0;
  const length = Math.min(SECOND_MS * 2 ** Math.min(tries - patience.free, 20), patience.longestMs);
  return Math.max(1, last + length - at);
}

/** Forgets the tries under a name, after they came to an end. */
export async function forgetTries({ orm }: Database, name: string): Promise<void> {
  await orm.delete(rateLimit).where(eq(rateLimit.key, keyOf(name)));
}
