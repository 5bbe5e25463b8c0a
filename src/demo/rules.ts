import { eq } from 'drizzle-orm';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import { DAY_MS, type Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { ruleCourses, rules } from '@/data/schema';
import type { Viewer } from '@/server/access/viewer';
import { saveRule } from '@/server/unasked/manage';
import { passRules } from '@/server/unasked/pass';

/** Rules that the demo's instructor has switched on, and how many days ago. */
const ON: readonly (readonly [starter: string, days: number])[] = [
  ['praise', 2.5],
  ['hard work', 20],
  ['not seen', 20],
];

/** Rules that have looked after the demo course for a while: they ask before they write, and have a word to say. */
export async function seedRules(
  db: Database,
  { courseId, code, viewer, now }: { courseId: number; code: string; viewer: Viewer; now: Instant },
): Promise<void> {
  const ago = (days: number) => new Date(now - days * DAY_MS);
  for (const [starter, days] of ON) {
    const numbers = usualNumbers(starter);
    const { name, make } = RULE_STARTERS[starter]!;
    const parts = make(numbers);
    const then = { ...parts.then, approve: true };
    const id = await saveRule(viewer, code, {
      id: null,
      name,
      starter,
      numbers,
      parts: { ...parts, then },
    });
    await db.orm
      .update(rules)
      .set({ state: 'on', since: ago(days), changedAt: ago(days) })
      .where(eq(rules.id, id));
  }
  await db.orm.insert(ruleCourses).values({ courseId, lookedAt: ago(20) });
  await passRules(db, courseId);
}
