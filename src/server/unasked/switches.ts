import { and, eq, inArray } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { occasions, ruleHolds, rules } from '@/data/schema';
import { nowDate } from '../base/clock';

/** Has a rule stop by itself, with the reason; what it had ready does not go. */
export async function pauseRule(db: Access, ruleId: number, why: string): Promise<void> {
  await db.orm
    .update(rules)
    .set({ state: 'paused', why, changedAt: nowDate() })
    .where(and(eq(rules.id, ruleId), eq(rules.state, 'on')));
  await dropReady(db, ruleId, why);
}

/** Drops what a rule has ready and has not sent, in the transaction of what stops or changes it. */
export async function dropReady({ orm }: Access, ruleId: number, why: string): Promise<void> {
  await orm
    .update(occasions)
    .set({ state: 'held', why, settledAt: nowDate() })
    .where(and(eq(occasions.ruleId, ruleId), inArray(occasions.state, ['waiting', 'to go'])));
}

/** Lets a rule begin anew: what holds now held before it. */
export async function forgetHolds({ orm }: Access, ruleId: number): Promise<void> {
  await orm.delete(ruleHolds).where(eq(ruleHolds.ruleId, ruleId));
}
