import { and, eq } from 'drizzle-orm';
import type { TalkTimesForm } from '@/core/forms/talk';
import { talkTimes } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { requireCourse, type Viewer } from '../access/viewer';

/** Times that one instructor can have in a course. */
const MOST_TIMES = 50;

/** Keeps times at which the viewer can be seen, new or changed. Talks that are booked stay as they are. Returns the id. */
export async function saveTalkTimes(
  viewer: Viewer,
  code: string,
  form: TalkTimesForm,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { orm } = db;
  const { id, lastOn, repeat, firstOn, place, from, until, minutes, seats, open, except } = form;
  // By name: what else came along with the form is not stored.
  const row = {
    repeat,
    firstOn,
    lastOn: repeat === 'once' ? firstOn : lastOn,
    from,
    until,
    minutes,
    place: place.trim(),
    seats,
    open,
    except,
  };
  const own = and(eq(talkTimes.courseId, course.id), eq(talkTimes.userId, viewer.userId));
  if (id != null) {
    return db.transaction(async (tx) => {
      const mine = and(eq(talkTimes.id, id), own);
      const [before] = await tx.orm.select().from(talkTimes).where(mine).for('update');
      if (!before) throw notFound('times of yours');
      const stored = Object.keys(row).map((key) => [key, before[key as keyof typeof row]] as const);
      refuseStale(was, Object.fromEntries(stored));
      await tx.orm.update(talkTimes).set(row).where(mine);
      return id;
    });
  }
  if ((await orm.$count(talkTimes, own)) >= MOST_TIMES)
    throw invalid(`You have given ${MOST_TIMES} times already; remove one that is over.`);
  const [made] = await orm
    .insert(talkTimes)
    .values({ ...row, courseId: course.id, userId: viewer.userId, at: nowDate() })
    .returning({ id: talkTimes.id });
  return made!.id;
}

/** Removes times of the viewer's. Talks that are booked stay. */
export async function removeTalkTimes(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const gone = await orm
    .delete(talkTimes)
    .where(and(eq(talkTimes.id, id), eq(talkTimes.courseId, course.id), eq(talkTimes.userId, viewer.userId)))
    .returning({ id: talkTimes.id });
  if (gone.length === 0) throw notFound('times of yours');
}
