import { eq } from 'drizzle-orm';
import { nextLook, lastLook } from '@/core/feeds/schedule';
import { readMarks } from '@/core/forms/feed';
import { HOUR_MS, type Instant } from '@/core/units';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { courses, feeds } from '@/data/schema';
import { now } from '../base/clock';
import { UseCaseError } from '../base/errors';
import type { Working } from '../jobs/runner';
import { wakeRunner, type Payload } from '../jobs/queue';
import { fetchLink } from './fetchLink';
import { feedOf, keepFile, type Feed } from './keepFile';
import { queueFor, queueNext } from './queueFeed';
import { copyPlain, newIn } from './readFolder';
import { workThrough } from './takeIn';

/** How long, and how often, a file that is late is looked for again before it is said that nothing came. */
const LATE = { most: 2 * HOUR_MS, every: HOUR_MS / 4 };

/** How many files a look found that are not the same as the last. */
interface Looked {
  readonly came: number;
}
const NOTHING: Looked = { came: 0 };

/**
 * Looks for files that come by themselves, keeps them, and brings in those that look like the last, one after the other; one
 * that does not waits until somebody has looked at it, and all after it wait too. At its time it also notes that nothing came.
 */
export async function lookAtFeed(
  db: Database,
  { feedId, at, looks }: Payload<'feed'>,
  working: Pick<Working, 'job' | 'progress' | 'stillMine'>,
): Promise<Looked> {
  const feed = await feedOf(db, feedId);
  const [course] = feed ? await db.orm.select().from(courses).where(eq(courses.id, feed.courseId)) : [];
  if (!feed || !course) return NOTHING;
  // What is paused is looked at only by whoever asks for it.
  if (feed.state !== 'on' && working.job.userId == null) return NOTHING;
  if (at != null) {
    // Another time, or another zone, was set meanwhile.
    const isDue = nextLook(feed, at - 1, course.zone) === at;
    await queueNext(db, feed, course.zone, Math.max(now(), at));
    if (!isDue) return NOTHING;
  }
  // An archived course takes nothing in, but its looks go on: it may be taken up again.
  if (course.archivedAt != null) return NOTHING;
  await working.progress('Looking for files');
  const came = looks ? await bringNew(db, feed) : 0;
  await workThrough(db, feed.id, course, working);
  if (at != null) await noteMissed(db, feed, course, at);
  wakeRunner();
  return { came };
}

/** Keeps what is new of a folder or a link; why that cannot be is noted in words. Returns how many files came. */
async function bringNew(db: Database, feed: Feed): Promise<number> {
  let came = 0;
  const keep = async (...file: Parameters<typeof keepFile>) => {
    if (await keepFile(...file)) came++;
  };
  try {
    if (feed.kind === 'link') await keep(db, feed, (path) => fetchLink(feed.place, path));
    if (feed.kind === 'folder') {
      const { fresh, kept } = await newIn(feed.place, readMarks(feed.marks));
      for (const { path: from, ...mark } of fresh) {
        kept.push(mark);
        await keep(
          db,
          feed,
          async (path) => {
            await copyPlain(from, path);
            return mark.name;
          },
          kept,
        );
      }
    }
  } catch (error) {
    if (!(error instanceof UseCaseError)) throw error;
    await db.orm.update(feeds).set({ why: error.message }).where(eq(feeds.id, feed.id));
  }
  return came;
}

/** Whether something has come for a time; if not, it is looked for again for a while, and then said. */
async function noteMissed(db: Database, feed: Feed, course: CourseRow, at: Instant): Promise<void> {
  const since = new Date(lastLook(feed, at, course.zone));
  const seen = await feedOf(db, feed.id);
  if (seen?.cameAt != null && seen.cameAt > since) return;
  if (now() - at < LATE.most) await queueFor(db, feed, at, LATE.every);
  else
    await db.orm
      .update(feeds)
      .set({ missedAt: new Date(at) })
      .where(eq(feeds.id, feed.id));
}
