import { writeFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import type { AttachedFile } from '@/core/formats/mail/attachedFiles';
import type { Database } from '@/data/database';
import { feeds } from '@/data/schema';
import { runningCourse } from '../access/owner';
import { wakeRunner } from '../jobs/queue';
import { feedOf, keepFile } from './keepFile';
import { queueWaiting } from './queueFeed';

/** Takes the files of an e-mail that came to the address of automatic imports. */
export async function takeReport(
  db: Database,
  feedId: number,
  files: readonly AttachedFile[],
): Promise<void> {
  const feed = await feedOf(db, feedId);
  if (feed?.kind !== 'mail' || !(await runningCourse(db, feed.courseId))) return;
  if (files.length === 0) {
    const why = 'An e-mail came with no file that can be read: CSV, JSON or zip.';
    await db.orm.update(feeds).set({ why }).where(eq(feeds.id, feed.id));
  }
  for (const { name, bytes } of files)
    await keepFile(db, feed, async (path) => {
      await writeFile(path, bytes);
      return name;
    });
  // What comes while it is paused waits.
  if (files.length === 0 || feed.state !== 'on') return;
  await queueWaiting(db, feed);
  wakeRunner();
}
