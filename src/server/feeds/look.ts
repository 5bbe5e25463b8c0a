import { copyFile } from 'node:fs/promises';
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { nextLook, lastLook } from '@/core/feeds/schedule';
import { unlike, type FileShape } from '@/core/feeds/shape';

import { readMarks, readShape, type FeedCounts } from '@/core/forms/feed';
import type { Mapping } from '@/core/course/mapping';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { HOUR_MS, type Instant } from '@/core/units';
import type { FileCounts, ImportPreview } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { feedFiles, feeds } from '@/data/schema';
import { ownerOf, runningCourse } from '../access/owner';
import { now } from '../base/clock';
import { UseCaseError } from '../base/errors';
import { importStaged, preview } from '../intake/intake';
import { staged } from '../intake/staging';
import type { Working } from '../jobs/runner';
import { wakeRunner, type Payload } from '../jobs/queue';
import { fetchLink } from './fetchLink';
import { keepFile, type Feed } from './keepFile';
import { shapeOf } from './shapeOf';
import { queueAgain, queueNext, queueWaiting } from './queueFeed';
import { newIn } from './readFolder';

/** How long, and how often, a file that is late is looked for again before it is said that nothing came. */
const LATE = { most: 2 * HOUR_MS, every: HOUR_MS / 4 };

export const FIRST =
  'It is the first one. Look whether it is read as you mean it; those like it go in by themselves.';

/** How many files a look found that are not the same as the last. */
interface Looked {
  readonly came: number;
}
const NOTHING: Looked = { came: 0 };

type FeedFile = typeof feedFiles.$inferSelect;

export async function feedOf({ orm }: Access, id: number): Promise<Feed | null> {
  const [feed] = await orm.select().from(feeds).where(eq(feeds.id, id));
  return feed ?? null;
}

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
  const course = feed && (await runningCourse(db, feed.courseId));
  if (!feed || !course) return NOTHING;
  // What is paused is looked at only by whoever asks for it.
  if (feed.state !== 'on' && working.job.userId == null) return NOTHING;
  if (at != null) {
    // Another time, or another zone, was set meanwhile.
    const isDue = nextLook(feed, at - 1, course.zone) === at;
    await queueNext(db, feed, course.zone, Math.max(now(), at));
    if (!isDue) return NOTHING;
  }
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
            await copyFile(from, path);
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
  if (now() - at < LATE.most) await queueAgain(db, feed, at, LATE.every);
  else
    await db.orm
      .update(feeds)
      .set({ missedAt: new Date(at) })
      .where(eq(feeds.id, feed.id));
}

const openFiles = ({ orm }: Access, feedId: number): Promise<FeedFile[]> =>
  orm
    .select()
    .from(feedFiles)
    .where(and(eq(feedFiles.feedId, feedId), inArray(feedFiles.state, ['waiting', 'unlike'])))
    .orderBy(asc(feedFiles.id));

async function workThrough(
  db: Database,
  feedId: number,
  course: CourseRow,
  working: Pick<Working, 'job' | 'progress' | 'stillMine'>,
): Promise<void> {
  for (;;) {
    const open = await openFiles(db, feedId);
    const [next] = open;
    // It may have been removed, or changed, since the last.
    const feed = await feedOf(db, feedId);
    if (!next || !feed || open.some((f) => f.state === 'unlike')) return;
    if (!(await takeIn(db, feed, course, next, working))) return;
  }
}

/** Brings one file in, or says why somebody has to look at it first. Returns whether the next may follow. */
async function takeIn(
  db: Database,
  feed: Feed,
  course: CourseRow,
  file: FeedFile,
  { job, ...working }: Pick<Working, 'job' | 'progress' | 'stillMine'>,
): Promise<boolean> {
  const halt = async (reasons: readonly string[]) => {
    await db.orm.update(feedFiles).set({ state: 'unlike', reasons }).where(eq(feedFiles.id, file.id));
    return false;
  };
  const owner = await ownerOf(db, feed.userId, course.id, 'import');
  if (!owner) {
    await db.orm
      .update(feeds)
      .set({ why: 'Whoever set this up does not teach the course any more. Save it to take it over.' })
      .where(eq(feeds.id, feed.id));
    return false;
  }
  if (file.uploadId == null) return halt(['It was not kept. Leave it out, and have it sent again.']);
  try {
    const seen = await preview(owner, course.code, file.uploadId, new Map(), mappingOf(feed));
    const reasons = reasonsAgainst(readShape(feed.shape), seen);
    if (reasons.length > 0) return await halt(reasons);
    const upload = file.uploadId;
    // Each file is an import of its own, and is not brought twice by a job that is begun anew.
    const as = { ...job, id: `feed file ${file.id}` };
    const isNew = seen.files.some((f) => f.counts.added + f.counts.changed + f.counts.waiting > 0);
    const counts = isNew
      ? await importStaged(db, { courseId: course.id, userId: feed.userId, upload }, { job: as, ...working })
      : seen.files.map((f) => f.counts);
    await settle(db, feed, file, { counts, shape: shapeOf(seen), mapping: mappingIn(seen) });
    return true;
  } catch (error) {
    if (error instanceof UseCaseError) return halt([error.message]);
    throw error;
  }
}

function reasonsAgainst(last: FileShape | null, seen: ImportPreview): string[] {
  const unread = seen.foreign.filter((f) => !f.read);
  const cannot = [
    ...seen.faults.map((f) => `It cannot be read: ${f.reason}.`),
    ...unread.map((f) =>
      f.reason == null
        ? 'Nobody has said yet what its columns mean.'
        : `It looks like one of our own files, but ${f.reason}.`,
    ),
    ...(seen.files.length === 0 && seen.faults.length === 0 && unread.length === 0
      ? ['There is nothing for this course in it.']
      : []),
  ];
  if (cannot.length > 0) return cannot;
  return last ? unlike(last, shapeOf(seen)) : [FIRST];
}

const mappingOf = (feed: Feed): Mapping | null =>
  feed.mapping == null ? null : mappingSchema.validateSync(feed.mapping, { strict: true });

const mappingIn = (seen: ImportPreview): Mapping | null => seen.foreign.find((f) => f.read)?.mapping ?? null;

const sumOf = (counts: readonly FileCounts[]): FeedCounts => {
  const sum = (of: keyof FeedCounts) => counts.reduce((n, c) => n + c[of], 0);
  return { added: sum('added'), changed: sum('changed'), waiting: sum('waiting'), rejected: sum('rejected') };
};

/** Notes that a file is in; the next is compared with it. */
const settle = (
  db: Database,
  feed: Pick<Feed, 'id'>,
  file: Pick<FeedFile, 'id'>,
  as: { readonly counts: readonly FileCounts[]; readonly shape: FileShape; readonly mapping: Mapping | null },
): Promise<void> =>
  db.transaction(async ({ orm }) => {
    await orm
      .update(feedFiles)
      .set({ state: 'in', counts: sumOf(as.counts), reasons: [] })
      .where(eq(feedFiles.id, file.id));
    await orm
      .update(feeds)
      .set({ shape: as.shape, mapping: as.mapping, why: null })
      .where(eq(feeds.id, feed.id));
  });

/** After somebody had a file imported that waited for their look: it is what the next is compared with. */
export async function settleUpload(
  db: Database,
  { courseId, userId, upload }: Payload<'import'>,
  counts: readonly FileCounts[],
): Promise<void> {
  const [found] = await db.orm
    .select({ file: feedFiles, feed: feeds })
    .from(feedFiles)
    .innerJoin(feeds, eq(feeds.id, feedFiles.feedId))
    .where(and(eq(feedFiles.uploadId, upload), eq(feedFiles.state, 'unlike')))
    .orderBy(desc(feedFiles.id))
    .limit(1);
  const course = await runningCourse(db, courseId);
  const viewer = found && (await ownerOf(db, userId, courseId, 'import'));
  if (!found || !course || !viewer) return;
  const { told } = await staged(upload, courseId, userId);
  // Read again as it was: now all its rows are known.
  const seen = await preview(viewer, course.code, upload, told);
  await settle(db, found.feed, found.file, { counts, shape: shapeOf(seen), mapping: mappingIn(seen) });
  // Those that came after it have waited for it.
  await queueWaiting(db, found.feed);
  wakeRunner();
}
