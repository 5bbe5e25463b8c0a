import type { Database } from '@/data/database';
import { passRules } from './pass';
import { sendReady } from './send';

/** Lets the rules of a course look, and sends what is to go. */
export async function actUnasked(db: Database, courseId: number): Promise<void> {
  await passRules(db, courseId);
  await sendReady(db, courseId);
}
