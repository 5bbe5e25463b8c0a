import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { and, desc, eq, notInArray, sql } from 'drizzle-orm';
import type { FileMark } from '@/core/forms/feed';
import type { Access, Database } from '@/data/database';
import { feedFiles, feeds } from '@/data/schema';
import { nowDate } from '../base/clock';
import { needSpace } from '../base/failure';
import { arriving, fileName } from '../staging/staging';

export type Feed = typeof feeds.$inferSelect;

/** A feed by its id; null if it is gone. */
export async function feedOf({ orm }: Access, id: number): Promise<Feed | null> {
  const [feed] = await orm.select().from(feeds).where(eq(feeds.id, id));
  return feed ?? null;
}

/** Files whose fate is kept for one feed. */
const KEPT = 40;

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/**
 * Keeps a file that came, until its turn: once it is acknowledged it is there, whatever fails. One that is the same as the
 * last, to the byte, is noted and not kept again; while the last still waits, not even noted.
 *
 * @param write puts it at a path, and says its name
 * @param marks what is marked as taken with it
 * @returns whether it is another than the last
 */
export async function keepFile(
  db: Database,
  feed: Feed,
  write: (path: string) => Promise<string>,
  marks?: readonly FileMark[],
): Promise<boolean> {
  await needSpace(0);
  const upload = await arriving(feed.courseId, feed.userId);
  try {
    // Staging names its files by itself; the name is known once it is there.
    const path = upload.pathFor(feed.name);
    const name = fileName(await write(path)) || feed.name;
    const hash = await hashOf(path);
    const [last] = await db.orm
      .select({ hash: feedFiles.hash, state: feedFiles.state })
      .from(feedFiles)
      .where(eq(feedFiles.feedId, feed.id))
      .orderBy(desc(feedFiles.id))
      .limit(1);
    if (last?.hash === hash) {
      await upload.drop();
      const isOpen = last.state === 'waiting' || last.state === 'unlike';
      const same = isOpen ? null : { name, hash, state: 'same' as const };
      await db.transaction((tx) => note(tx, feed, same, marks));
      return false;
    }
    const uploadId = await upload.keep(name);
    await db.transaction((tx) => note(tx, feed, { name, hash, uploadId, state: 'waiting' }, marks));
    return true;
  } catch (error) {
    await upload.drop();
    throw error;
  }
}

async function note(
  { orm }: Access,
  feed: Feed,
  file: Pick<typeof feedFiles.$inferInsert, 'name' | 'hash' | 'uploadId' | 'state'> | null,
  marks: readonly FileMark[] | undefined,
): Promise<void> {
  const at = nowDate();
  if (file) await orm.insert(feedFiles).values({ ...file, feedId: feed.id, at, reasons: [] });
  await orm
    .update(feeds)
    .set({ cameAt: at, missedAt: null, why: null, ...(marks ? { marks: [...marks] } : {}) })
    .where(eq(feeds.id, feed.id));
  const latest = sql`(select id from feed_files f where f.feed_id = ${feed.id} order by id desc limit ${KEPT})`;
  await orm
    .delete(feedFiles)
    .where(
      and(
        eq(feedFiles.feedId, feed.id),
        sql`${feedFiles.id} not in ${latest}`,
        notInArray(feedFiles.state, ['waiting', 'unlike']),
      ),
    );
}
