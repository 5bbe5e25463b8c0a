import { sql } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { itemNorms } from '@/data/schema';
import { insertMany } from './bulk';

/** Puts the norms of an evaluation in the place of those before it. */
export async function storeItemNorms(
  access: Access,
  courseId: number,
  norms: readonly (typeof itemNorms.$inferSelect)[],
): Promise<void> {
  await access.orm
    .delete(itemNorms)
    .where(sql`${itemNorms.activityId} in (select id from activities where course_id = ${courseId})`);
  await insertMany(access, itemNorms, norms);
}
