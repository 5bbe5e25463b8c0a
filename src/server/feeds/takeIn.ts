import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { Mapping } from '@/core/course/mapping';
import { unlike, type FileShape } from '@/core/feeds/shape';
import { readShape, type FeedCounts } from '@/core/forms/feed';
import { mappingSchema } from '@/core/formats/mapping/schema';
import type { FileCounts, ImportPreview } from '@/core/views/intake';
import type { Access, Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { feedFiles, feeds } from '@/data/schema';
import { ownerOf, runningCourse } from '../access/owner';
import { UseCaseError } from '../base/errors';
import { importStaged, preview } from '../intake/intake';
import { staged } from '../staging/staging';
import { wakeRunner, type Payload } from '../jobs/queue';
import type { Working } from '../jobs/runner';
import { feedOf, type Feed } from './keepFile';
import { queueWaiting } from './queueFeed';
import { shapeOf } from './shapeOf';

export const FIRST =
  'It is the first one. Look whether it is read as you mean it; those like it go in by themselves.';

type FeedFile = typeof feedFiles.$inferSelect;

const openFiles = ({ orm }: Access, feedId: number): Promise<FeedFile[]> =>
  orm
    .select()
    .from(feedFiles)
    .where(and(eq(feedFiles.feedId, feedId), inArray(feedFiles.state, ['waiting', 'unlike'])))
    .orderBy(asc(feedFiles.id));

/** Brings in the files of a feed that wait, in the order in which they came, up to one that is unlike the last. */
export async function workThrough(
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

/** How a table of a foreign make is read that comes this way; null if none has come. */
export const mappingOf = (feed: Feed): Mapping | null =>
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
