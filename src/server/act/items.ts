import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { standingNow } from '@/core/gradebook/standing';
import type { KeyShown } from '@/core/items/disclosure';
import { movesOf, type GradeBase, type Move } from '@/core/items/rekey';
import { keysByScores } from '@/core/items/sittings';
import { itemKey } from '@/core/forms/item';
import { sameKeys, type ItemKey } from '@/core/items/treatment';
import type { ItemChangeAsked, ItemChangePreview } from '@/core/views/itemChange';
import type { Access } from '@/data/database';
import { loadCourseModel, type CourseModel, type CourseRow } from '@/data/queries/courseModel';
import { recordedAnswers, itemsOf, type ItemRow } from '@/data/queries/responses';
import { loadScores, stateOf, type FullScore } from '@/data/queries/scores';
import { activities, gradeBases, itemChanges, itemQuestions, items } from '@/data/schema';
import { upsertMany } from '@/data/write/bulk';
import { requireCourse, type Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound, UseCaseError } from '../base/errors';
import { setupChanged } from '../derive/setupChanged';
import { wakeRunner } from '../jobs/queue';
import { fullName, roster } from '../snapshot/roster';
import { outdate, writeBatch } from './gradeChange';
import { underLock } from '@/data/write/underLock';

/** What a change of an item needs to know, and what it comes to. */
interface Found {
  readonly course: CourseModel;
  readonly activityId: number;
  readonly maximum: number | null;
  readonly row: ItemRow | null;
  readonly before: ItemKey;
  readonly after: ItemKey;
  /** Everybody who answered something in it. */
  readonly students: readonly number[];
  readonly scores: ReadonlyMap<number, ReadonlyMap<string, FullScore>>;
  readonly moves: readonly Move[];
}

async function gradeBasesOf({ orm }: Access, activityId: number): Promise<Map<number, GradeBase>> {
  const rows = await orm.select().from(gradeBases).where(eq(gradeBases.activityId, activityId));
  return new Map(rows.map(({ enrolmentId, points, share }) => [enrolmentId, { points, share }]));
}

/** Finds out what a change would do. Reads only. */
async function find(access: Access, courseId: number, asked: ItemChangeAsked): Promise<Found> {
  const course = await loadCourseModel(access, courseId);
  const activity = course.activities.find((a) => a.id === asked.activityId);
  if (!activity) throw notFound('assignment in this course');
  const rows = await itemsOf(access, activity.id);
  const answers = await recordedAnswers(access, activity.id);
  const row = rows.find((r) => r.item === asked.item) ?? null;
  const own = answers.filter((a) => a.item === asked.item);
  if (!row && own.length === 0) throw notFound('item of this assignment');
  if ((row?.rev ?? 0) !== asked.rev)
    throw new UseCaseError(
      'conflict',
      'Somebody has changed this item meanwhile. Load the page again to see how it stands now.',
    );
  const keys = [...new Set(asked.keys.map((k) => k.trim()).filter(Boolean))];
  // Where nobody has said what is right, it is what was scored as right.
  const known = row?.keys ?? keysByScores(own.map((a) => ({ answer: a.answer, score: a.came })));
  // What is right already may be no single option: several chosen together, say.
  const stray =
    row && row.options.length > 0
      ? keys.find((k) => !known.includes(k) && !row.options.some((o) => o.option === k))
      : null;
  if (stray != null) throw invalid(`“${stray}” is none of the options of this item.`);
  const before: ItemKey = {
    keys: known,
    keysCame: row?.keysCame ?? known,
    treatment: row?.treatment ?? 'scored',
  };
  const after: ItemKey = { ...before, keys, treatment: asked.treatment };
  if (after.treatment === 'scored' && keys.length === 0)
    throw invalid('Name at least one right answer, or drop the item.');
  const all = new Map<string, ItemKey>(rows.map((r) => [r.item, r]));
  const names = new Set(answers.map((a) => a.item));
  const left = [...names].filter((n) => n !== asked.item && all.get(n)?.treatment !== 'dropped');
  if (after.treatment === 'dropped' && left.length === 0)
    throw invalid('This is the only item that counts; a quiz needs one.');
  const students = [...new Set(answers.map((a) => a.student))];
  const scores = await loadScores(access, courseId);
  const bases = await gradeBasesOf(access, activity.id);
  const grades = students.flatMap((student) => {
    const score = scores.get(student)?.get(String(activity.id));
    if (score?.points == null || score.excused) return [];
    return [{ student, points: score.points, base: bases.get(student) ?? null }];
  });
  const moves =
    activity.points == null
      ? []
      : movesOf(
          answers,
          new Map(all).set(asked.item, before),
          new Map(all).set(asked.item, after),
          grades,
          activity.points,
        );
  return {
    course,
    activityId: activity.id,
    maximum: activity.points,
    row,
    before,
    after,
    students,
    scores,
    moves,
  };
}

/** Whose score and standing would move if an item counted otherwise, and by how much; nothing is changed. */
export async function previewItemChange(
  viewer: Viewer,
  code: string,
  asked: ItemChangeAsked,
): Promise<ItemChangePreview> {
  const course = await requireCourse(viewer, 'grade', code);
  const db = await database();
  const { course: model, maximum, moves, scores, activityId } = await find(db, course.id, asked);
  const people = new Map(
    (
      await roster(
        course.id,
        moves.map((m) => m.student),
      )
    ).map((p) => [p.enrolmentId, fullName(p)]),
  );
  const at = now();
  return {
    maximum,
    moves: moves
      .map(({ student, from, to }) => {
        const own = scores.get(student)!;
        const id = String(activityId);
        const moved = new Map(own).set(id, { ...own.get(id)!, points: to });
        return {
          enrolmentId: student,
          name: people.get(student) ?? '',
          from,
          to,
          standingFrom: standingNow(model.book, own, at),
          standingTo: standingNow(model.book, moved, at),
        };
      })
      .sort(
        (a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from) || a.name.localeCompare(b.name, 'en'),
      ),
  };
}

/** Sets how an item counts, and has the grades follow, in a transaction that holds the course. */
async function apply(tx: Access, course: CourseRow, viewer: Viewer, asked: ItemChangeAsked) {
  const { activityId, row, before, after, moves, scores, students } = await find(tx, course.id, asked);
  if (sameKeys(before.keys, after.keys) && before.treatment === after.treatment)
    throw invalid('The item counts like that already.');
  const set = { ...mutable(after), rev: (row?.rev ?? 0) + 1 };
  await tx.orm
    .insert(items)
    .values({ activityId, item: asked.item, ...set })
    .onConflictDoUpdate({ target: [items.activityId, items.item], set });
  const batch = await writeBatch(
    tx,
    course,
    viewer,
    'key',
    moves.map(({ student, to }) => {
      const state = stateOf(scores.get(student)!.get(String(activityId)));
      return { enrolmentId: student, activityId, before: state, after: { ...state, points: to } };
    }),
  );
  await upsertMany(
    tx,
    gradeBases,
    [gradeBases.enrolmentId, gradeBases.activityId],
    moves.map(({ student, base }) => ({ enrolmentId: student, activityId, ...base })),
  );
  // What they know of the outcomes follows the answers, graded or not.
  await outdate(
    tx,
    course,
    students.map((enrolmentId) => ({ enrolmentId, activityId })),
  );
  return { batch, before, after, moved: moves.length };
}

/** Sets how an item counts, and has the grades follow, all or nothing. Returns how many grades moved. */
export async function changeItem(viewer: Viewer, code: string, asked: ItemChangeAsked): Promise<number> {
  const course = await requireCourse(viewer, 'grade', code);
  const db = await database();
  const moved = await underLock(db, course.id, async (tx) => {
    const done = await apply(tx, course, viewer, asked);
    await tx.orm.insert(itemChanges).values({
      courseId: course.id,
      activityId: asked.activityId,
      item: asked.item,
      userId: viewer.userId,
      at: nowDate(),
      ...done,
    });
    return done.moved;
  });
  wakeRunner();
  return moved;
}

/** Notes that whoever did not see why an item is right was helped; returns how many. */
export async function handleQuestions(
  viewer: Viewer,
  code: string,
  activityId: number,
  item: string,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const done = await orm
    .update(itemQuestions)
    .set({ handledAt: nowDate() })
    .where(
      and(
        eq(itemQuestions.activityId, activityId),
        eq(itemQuestions.item, item),
        isNull(itemQuestions.handledAt),
        sql`exists (select 1 from activities a where a.id = ${itemQuestions.activityId} and a.course_id = ${course.id})`,
      ),
    )
    .returning({ id: itemQuestions.enrolmentId });
  if (done.length === 0) throw notFound('open question about this item');
  return done.length;
}

const mutable = ({ keys, keysCame, treatment }: ItemKey) => ({
  keys: keys == null ? null : [...keys],
  keysCame: keysCame == null ? null : [...keysCame],
  treatment,
});

/**
 * Undoes the latest change of an item: it counts as before, and the grades follow, so that they are what they were, whatever
 * other items were changed since. Returns how many grades moved.
 */
export async function undoItemChange(viewer: Viewer, code: string, changeId: number): Promise<number> {
  const course = await requireCourse(viewer, 'grade', code);
  const db = await database();
  const back = await underLock(db, course.id, async (tx) => {
    const [change] = await tx.orm
      .select()
      .from(itemChanges)
      .where(and(eq(itemChanges.id, changeId), eq(itemChanges.courseId, course.id)));
    if (!change) throw notFound('change of this course');
    const { activityId, item, before } = change;
    const [latest] = await tx.orm
      .select({ id: itemChanges.id })
      .from(itemChanges)
      .where(
        and(eq(itemChanges.activityId, activityId), eq(itemChanges.item, item), isNull(itemChanges.undoneAt)),
      )
      .orderBy(desc(itemChanges.id))
      .limit(1);
    const [row] = await tx.orm
      .select({ rev: items.rev })
      .from(items)
      .where(and(eq(items.activityId, activityId), eq(items.item, item)));
    if (change.undoneAt || latest?.id !== changeId || !row)
      throw new UseCaseError(
        'conflict',
        'This is not the latest change of the item any more; nothing was undone.',
      );
    const { keys, treatment } = itemKey.validateSync(before, { strict: true });
    const done = await apply(tx, course, viewer, {
      activityId,
      item,
      keys: keys ?? [],
      treatment,
      rev: row.rev,
    });
    await tx.orm.update(itemChanges).set({ undoneAt: nowDate() }).where(eq(itemChanges.id, changeId));
    return done.moved;
  });
  wakeRunner();
  return back;
}

/** Says when students see the answers of a quiz. Returns how it was before. */
export async function setKeyShown(
  viewer: Viewer,
  code: string,
  { activityId, shown }: { readonly activityId: number; readonly shown: KeyShown },
): Promise<KeyShown> {
  const course = await requireCourse(viewer, 'grade', code);
  const db = await database();
  return underLock(db, course.id, async (tx) => {
    const own = and(eq(activities.id, activityId), eq(activities.courseId, course.id));
    const [before] = await tx.orm.select({ shown: activities.keyShown }).from(activities).where(own);
    if (!before) throw notFound('assignment in this course');
    await tx.orm.update(activities).set({ keyShown: shown }).where(own);
    await setupChanged(tx, course.id);
    return before.shown;
  });
}
