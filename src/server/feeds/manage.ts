import { and, eq, inArray } from 'drizzle-orm';
import type { FeedForm } from '@/core/forms/feed';
import type { ImportPreview } from '@/core/views/intake';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { feedFiles, feeds, uploads } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { nowDate } from '../base/clock';
import { config } from '../base/config';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { preview } from '../intake/intake';
import { unstage } from '../staging/staging';
import { wakeRunner } from '../jobs/queue';
import type { Feed } from './keepFile';
import { mappingOf, settleUpload } from './takeIn';
import { queueLook, queueNext, queueWaiting } from './queueFeed';
import { makeFolder } from './readFolder';
import { underLock } from '@/data/write/underLock';

/** Most feeds of a course. */
const MOST_FEEDS = 20;

/** A name that any disk takes for a folder. */
const plainName = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase()
    .slice(0, 40);

function folderFor(course: CourseRow, name: string, taken: readonly string[]): string {
  const of = /^[A-Za-z0-9][A-Za-z0-9-]*$/.test(course.code) ? course.code : `course-${course.id}`;
  const first = `${of}/${plainName(name) || 'files'}`;
  for (let i = 1; ; i++) {
    const place = i === 1 ? first : `${first}-${i}`;
    if (!taken.includes(place)) return place;
  }
}

async function ownFeed({ orm }: Pick<Access, 'orm'>, course: CourseRow, id: number): Promise<Feed> {
  const [feed] = await orm
    .select()
    .from(feeds)
    .where(and(eq(feeds.id, id), eq(feeds.courseId, course.id)))
    .for('update');
  if (!feed) throw notFound('way for files to come by themselves in this course');
  return feed;
}

/**
 * Saves how files come by themselves, new or changed; they go in, in the name of whoever saved it last. Returns its id.
 */
export async function saveFeed(
  viewer: Viewer,
  code: string,
  form: FeedForm,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'import', code);
  if (course.archivedAt != null) throw invalid('This course is archived: nothing comes in by itself.');
  if (form.kind === 'mail' && !config().mailIn)
    throw invalid(
      'No mail is taken in here. Whoever runs Ready Lantern can set it up (LANTERN_MAIL_IN_PORT).',
    );
  const db = await database();
  const saved = await underLock(db, course.id, async (tx) => {
    const about = { name: form.name.trim(), days: form.days, minute: form.minute, userId: viewer.userId };
    if (form.id != null) {
      const before = await ownFeed(tx, course, form.id);
      if (before.kind !== form.kind)
        throw invalid('How files come is not changed. Set up another way beside it.');
      refuseStale(was, {
        name: before.name,
        days: before.days,
        minute: before.minute,
        ...(before.kind === 'link' ? { link: before.place } : {}),
      });
      const link = form.kind === 'link' ? { place: form.link.trim() } : {};
      const [feed] = await tx.orm
        .update(feeds)
        .set({ ...about, ...link, why: null, missedAt: null })
        .where(eq(feeds.id, form.id))
        .returning();
      await handOver(tx, form.id, viewer.userId);
      return feed!;
    }
    const all = await tx.orm.select({ place: feeds.place }).from(feeds).where(eq(feeds.courseId, course.id));
    if (all.length >= MOST_FEEDS)
      throw invalid(`Files of a course come in at most ${MOST_FEEDS} ways. Remove one first.`);
    const place =
      form.kind === 'link'
        ? form.link.trim()
        : form.kind === 'folder'
          ? folderFor(
              course,
              form.name,
              all.map((f) => f.place),
            )
          : '';
    const [feed] = await tx.orm
      .insert(feeds)
      .values({
        ...about,
        courseId: course.id,
        kind: form.kind,
        place,
        state: 'on',
        marks: [],
        createdAt: nowDate(),
      })
      .returning();
    return feed!;
  });
  if (saved.kind === 'folder') await makeFolder(saved.place);
  if (saved.state === 'on') {
    await queueNext(db, saved, course.zone);
    await queueLook(db, saved);
  }
  wakeRunner();
  return saved.id;
}

/** Files that wait go in, in another's name from now. */
async function handOver({ orm }: Access, feedId: number, userId: string): Promise<void> {
  const waiting = orm
    .select({ id: feedFiles.uploadId })
    .from(feedFiles)
    .where(and(eq(feedFiles.feedId, feedId), inArray(feedFiles.state, ['waiting', 'unlike'])));
  await orm.update(uploads).set({ userId }).where(inArray(uploads.id, waiting));
}

/** Stops looking for files for a while, or goes on, with what came meanwhile. */
export async function switchFeed(viewer: Viewer, code: string, id: number, on: boolean): Promise<void> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  await db.transaction(async (tx) => {
    const feed = await ownFeed(tx, course, id);
    await tx.orm
      .update(feeds)
      .set({ state: on ? 'on' : 'paused', why: null, missedAt: null })
      .where(eq(feeds.id, id));
    if (!on) return;
    await queueNext(tx, feed, course.zone);
    await queueLook(tx, feed);
  });
  wakeRunner();
}

/** Forgets how files come by themselves, and those that wait. What went in stays. */
export async function removeFeed(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const gone = await db.transaction(async (tx) => {
    await ownFeed(tx, course, id);
    const files = await tx.orm.select().from(feedFiles).where(eq(feedFiles.feedId, id));
    await tx.orm.delete(feeds).where(eq(feeds.id, id));
    return files.flatMap((f) => (f.state === 'waiting' || f.state === 'unlike' ? (f.uploadId ?? []) : []));
  });
  for (const upload of gone) await unstage(upload);
}

/** Looks for files now. Returns the job to ask how far it is. */
export async function lookNow(viewer: Viewer, code: string, id: number): Promise<string> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const feed = await db.transaction((tx) => ownFeed(tx, course, id));
  const job = await queueLook(db, feed, viewer.userId);
  wakeRunner();
  return job;
}

const NOT_KEPT = () => invalid('This file was not kept. Leave it out, and have it sent again.');

async function haltedFile({ orm }: Pick<Access, 'orm'>, course: CourseRow, fileId: number) {
  const [found] = await orm
    .select({ file: feedFiles, feed: feeds })
    .from(feedFiles)
    .innerJoin(feeds, eq(feeds.id, feedFiles.feedId))
    .where(and(eq(feedFiles.id, fileId), eq(feeds.courseId, course.id), eq(feedFiles.state, 'unlike')));
  if (!found) throw notFound('file that waits for a look');
  return found;
}

/** What importing a file would do that waits for a look: whoever looks may then have it imported. */
export async function openFeedFile(viewer: Viewer, code: string, fileId: number): Promise<ImportPreview> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const { file, feed } = await haltedFile(db, course, fileId);
  if (file.uploadId == null) throw NOT_KEPT();
  await db.orm.update(uploads).set({ userId: viewer.userId }).where(eq(uploads.id, file.uploadId));
  return preview(viewer, code, file.uploadId, new Map(), mappingOf(feed));
}

/** Says that a file is as it should be, of which nothing is new: the next is compared with it. */
export async function acceptFile(viewer: Viewer, code: string, fileId: number): Promise<void> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const { file } = await haltedFile(db, course, fileId);
  if (file.uploadId == null) throw NOT_KEPT();
  await db.orm.update(uploads).set({ userId: viewer.userId }).where(eq(uploads.id, file.uploadId));
  await settleUpload(db, { courseId: course.id, userId: viewer.userId, upload: file.uploadId }, []);
}

/** Leaves a file out that waits for a look, and goes on with those after it. */
export async function leaveOut(viewer: Viewer, code: string, fileId: number): Promise<void> {
  const course = await requireCourse(viewer, 'import', code);
  const db = await database();
  const { file, feed } = await haltedFile(db, course, fileId);
  await db.transaction(async (tx) => {
    await tx.orm.update(feedFiles).set({ state: 'left out' }).where(eq(feedFiles.id, fileId));
    await queueWaiting(tx, feed);
  });
  if (file.uploadId != null) await unstage(file.uploadId);
  wakeRunner();
}
