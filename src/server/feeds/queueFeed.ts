import { eq } from 'drizzle-orm';
import { nextLook } from '@/core/feeds/schedule';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { courses, feeds } from '@/data/schema';
import { now } from '../base/clock';
import { enqueue } from '../jobs/queue';
import type { Feed } from './keepFile';

/** Files of a course go in one after the other, whoever brings them. */
const lineOf = ({ courseId }: Pick<Feed, 'courseId'>) => `import ${courseId}`;

/** Queues the next look of a feed at its time. One of a time that was changed meanwhile does nothing. */
export async function queueNext(access: Access, feed: Feed, zone: string, after = now()): Promise<void> {
  const at = nextLook(feed, after, zone);
  await queueFor(access, feed, at, Math.max(0, at - now()));
}

/** Queues a look for what is to come at a time, or was, a while from now. */
export const queueFor = (access: Access, feed: Feed, at: Instant, delayMs: number): Promise<string> =>
  enqueue(access, {
    kind: 'feed',
    payload: { feedId: feed.id, at, looks: true },
    key: `feed ${feed.id} ${at}`,
    line: lineOf(feed),
    delayMs,
  });

/** Queues a look now, for whoever asks for it. */
export const queueLook = (access: Access, feed: Feed, userId: string | null = null): Promise<string> =>
  enqueue(access, {
    kind: 'feed',
    payload: { feedId: feed.id, at: null, looks: true },
    userId,
    key: userId == null ? `feed ${feed.id} look` : undefined,
    line: lineOf(feed),
    step: 'Looking for files',
  });

/** Queues that the files that wait are brought in. */
export const queueWaiting = (access: Access, feed: Feed): Promise<string> =>
  enqueue(access, {
    kind: 'feed',
    payload: { feedId: feed.id, at: null, looks: false },
    key: `feed ${feed.id} waiting`,
    line: lineOf(feed),
  });

/** Queues what is to be looked for; a feed whose job was lost is looked for again. */
export async function queueFeeds(access: Access): Promise<void> {
  const rows = await access.orm
    .select({ feed: feeds, zone: courses.zone })
    .from(feeds)
    .innerJoin(courses, eq(courses.id, feeds.courseId))
    .where(eq(feeds.state, 'on'));
  for (const { feed, zone } of rows) {
    await queueNext(access, feed, zone);
    await queueWaiting(access, feed);
  }
}
