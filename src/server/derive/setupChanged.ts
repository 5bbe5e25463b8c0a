import { eq, sql } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { courses } from '@/data/schema';
import { outdated } from './outdated';

/** Says that a course is set up otherwise than before: whatever was kept of it is read anew, and flags are too. */
export async function setupChanged(access: Access, courseId: number): Promise<void> {
  await reviseSetup(access, courseId);
  await outdated(access, courseId);
}

/** The same where the caller has flags evaluated itself. */
export async function reviseSetup({ orm }: Access, courseId: number): Promise<void> {
  await orm
    .update(courses)
    .set({ setupRev: sql`${courses.setupRev} + 1` })
    .where(eq(courses.id, courseId));
}
