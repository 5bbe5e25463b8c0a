import { eq, sql } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { courses } from '@/data/schema';

/** Says that a course is set up otherwise than before: whatever was kept of it is read anew, and flags are too. */
export async function setupChanged({ orm }: Access, courseId: number): Promise<void> {
  await orm
    .update(courses)
    .set({ setupRev: sql`${courses.setupRev} + 1`, evaluatedAt: null })
    .where(eq(courses.id, courseId));
}
