import { and, desc, eq, inArray } from 'drizzle-orm';
import { readFeedCounts, readReasons } from '@/core/forms/feed';
import { nextLook } from '@/core/feeds/schedule';
import { isInTerm } from '@/core/calendar/term';
import type { FeedFileLine, FeedLine, FeedNotice } from '@/core/views/feeds';
import type { Access } from '@/data/database';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import { feedFiles, feeds, user } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { config } from '../base/config';
import { database } from '../base/database';
import { addressOf } from '../mail/addresses';
import type { Feed } from './keepFile';
import { folderPath } from './readFolder';

/** Files of one feed that are shown. */
const SHOWN = 5;

const placeOf = (feed: Feed): string =>
  feed.kind === 'link'
    ? feed.place
    : feed.kind === 'folder'
      ? folderPath(feed.place)
      : (addressOf('report', feed.id) ?? 'no mail is taken in here');

function fileLine(file: typeof feedFiles.$inferSelect): FeedFileLine {
  return {
    id: file.id,
    name: file.name,
    at: file.at.getTime(),
    state: file.state,
    counts: readFeedCounts(file.counts),
    reasons: readReasons(file.reasons),
  };
}

/** The files of a course that come by themselves, and whether an address for them can be had here. */
export async function feedsView(
  viewer: Viewer,
  code: string,
): Promise<{ readonly feeds: readonly FeedLine[]; readonly takesMail: boolean }> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const rows = await orm
    .select({ feed: feeds, by: user.name })
    .from(feeds)
    .innerJoin(user, eq(user.id, feeds.userId))
    .where(eq(feeds.courseId, course.id))
    .orderBy(feeds.id);
  const files = await filesOf(
    { orm },
    rows.map((r) => r.feed.id),
  );
  return {
    takesMail: config().mailIn != null,
    feeds: rows.map(({ feed, by }) => {
      const { id, name, kind, place, days, minute } = feed;
      const own = files.filter((f) => f.feedId === id);
      return {
        id,
        form: { id, name, kind, link: kind === 'link' ? place : '', days, minute },
        on: feed.state === 'on',
        place: placeOf(feed),
        by,
        next: feed.state === 'on' ? nextLook(feed, now(), course.zone) : null,
        why: feed.why,
        missedAt: feed.missedAt?.getTime() ?? null,
        files: own.filter((f, i) => i < SHOWN || f.state === 'unlike').map(fileLine),
      };
    }),
  };
}

const filesOf = ({ orm }: Pick<Access, 'orm'>, ids: readonly number[]) =>
  ids.length === 0
    ? Promise.resolve([])
    : orm
        .select()
        .from(feedFiles)
        .where(inArray(feedFiles.feedId, [...ids]))
        .orderBy(desc(feedFiles.id));

/** What Rounds says of them: files that somebody has to look at, and that nothing came, within the term. */
export async function feedNotices({ orm }: Access, course: CourseRow): Promise<FeedNotice[]> {
  const rows = await orm.select().from(feeds).where(eq(feeds.courseId, course.id)).orderBy(feeds.id);
  if (rows.length === 0) return [];
  const halted = await orm
    .select()
    .from(feedFiles)
    .where(
      and(
        inArray(
          feedFiles.feedId,
          rows.map((r) => r.id),
        ),
        eq(feedFiles.state, 'unlike'),
      ),
    )
    .orderBy(feedFiles.id);
  const inTerm = isInTerm(termOf(course), now());
  return rows.flatMap((feed) => {
    const file = halted.find((f) => f.feedId === feed.id);
    const isMissed = feed.state === 'on' && feed.missedAt != null && inTerm;
    if (!file && !isMissed) return [];
    return [
      {
        id: feed.id,
        name: feed.name,
        file: file ? { id: file.id, name: file.name, reasons: readReasons(file.reasons) } : null,
        cameAt: feed.cameAt?.getTime() ?? null,
        why: feed.why,
      },
    ];
  });
}
