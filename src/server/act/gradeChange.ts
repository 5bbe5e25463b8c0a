import { randomUUID } from 'node:crypto';
import { and, desc, eq, isNull } from 'drizzle-orm';
import { EMPTY_STATE, sameState, type GradeAction, type ScoreState } from '@/core/gradebook/changes';
import type { CellRef, Changed, Conflict, SeenCell } from '@/core/views/gradebook';
import type { Access } from '@/data/database';
import { activities, enrolments, persons, scoreChanges, scores, user } from '@/data/schema';
import { deleteMany, insertMany, upsertMany } from '@/data/write/bulk';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { outdated } from '../derive/outdated';
import { revise } from '@/data/queries/revision';
import { loadScores, stateOf, type FullScore } from '@/data/queries/scores';
import { invalid, notFound, UseCaseError } from '../base/errors';
import { wakeRunner } from '../jobs/queue';
import { fullName } from '../snapshot/roster';
import { requireCourse, type Viewer } from '../access/viewer';
import { underLock } from '@/data/write/underLock';

/** One cell to change, and how. */
export interface CellChange extends SeenCell {
  readonly to: (state: ScoreState, maximum: number | null) => ScoreState;
}

/** Most cells changed in one go: a course of 500 in a column of ten pastes. */
export const MOST_CELLS = 5000;

/**
 * Changes cells of the gradebook together, in one transaction, and keeps what stood before. A cell that is no longer
 * as it was seen is left alone and reported with who changed it; the others go through.
 */
export async function changeCells(
  viewer: Viewer,
  code: string,
  action: GradeAction,
  changes: readonly CellChange[],
): Promise<Changed> {
  const course = await requireCourse(viewer, 'grade', code);
  if (changes.length > MOST_CELLS) throw invalid(`Change at most ${MOST_CELLS} cells at once.`);
  const db = await database();
  const done = await underLock(db, course.id, async (tx) => {
    const place = await placesOf(tx, course, changes);
    const stored = await loadScores(tx, course.id, [...new Set(changes.map((c) => c.enrolmentId))]);
    const written: Written[] = [];
    const conflicts: CellRef[] = [];
    for (const change of changes) {
      const before = stateOf(stored.get(change.enrolmentId)?.get(String(change.activityId)));
      if (before.points !== change.seen.points || before.excused !== change.seen.excused) {
        conflicts.push(change);
        continue;
      }
      const after = change.to(before, place.maximumOf(change.activityId));
      if (!sameState(before, after)) written.push({ ...change, before, after });
    }
    const batch = await writeBatch(tx, course, viewer, action, written);
    if (written.length > 0) await outdate(tx, course, written);
    return {
      batch: written.length > 0 ? batch : null,
      changed: written.length,
      conflicts: await conflictsOf(tx, conflicts, (c) =>
        stored.get(c.enrolmentId)?.get(String(c.activityId)),
      ),
    };
  });
  wakeRunner();
  return done;
}

/** Writes changed cells as one batch, in a transaction that holds the course, and leaves it to the caller to outdate them; returns its name. */
export async function writeBatch(
  tx: Access,
  course: CourseRow,
  viewer: Viewer,
  action: GradeAction,
  written: readonly Written[],
): Promise<string> {
  const batch = randomUUID();
  await write(tx, written);
  if (written.length === 0) return batch;
  await insertMany(
    tx,
    scoreChanges,
    written.map((w) => ({
      courseId: course.id,
      batch,
      enrolmentId: w.enrolmentId,
      activityId: w.activityId,
      userId: viewer.userId,
      at: nowDate(),
      action,
      before: w.before,
      after: w.after,
    })),
  );
  return batch;
}

/**
 * Takes a batch of changes back. Cells that somebody changed since then keep what they hold; if all of them were, the
 * undo is refused.
 */
export async function undoBatch(viewer: Viewer, code: string, batch: string): Promise<number> {
  const course = await requireCourse(viewer, 'grade', code);
  const db = await database();
  const undone = await underLock(db, course.id, async (tx) => {
    const still = await undoIn(tx, course, batch);
    if (still == null) throw notFound('change to undo');
    if (still.length === 0)
      throw new UseCaseError('conflict', 'Somebody has changed this since; nothing was undone.');
    await outdate(tx, course, still);
    return still.length;
  });
  wakeRunner();
  return undone;
}

/**
 * The same in a transaction that holds the course, and leaves it to the caller to outdate the cells that it returns; null
 * if the batch is undone already.
 */
export async function undoIn(
  tx: Access,
  course: CourseRow,
  batch: string,
): Promise<readonly CellRef[] | null> {
  const rows = await tx.orm
    .select()
    .from(scoreChanges)
    .where(
      and(eq(scoreChanges.batch, batch), eq(scoreChanges.courseId, course.id), isNull(scoreChanges.undoneAt)),
    );
  if (rows.length === 0) return null;
  if (rows.some((r) => r.action === 'key'))
    throw invalid('These grades follow the key of an item; undo the change of the key instead.');
  if (rows.some((r) => r.action === 'attempts'))
    throw invalid('These grades follow which attempt counts; change that in Course setup instead.');
  const stored = await loadScores(tx, course.id, [...new Set(rows.map((r) => r.enrolmentId))]);
  const still = rows.filter((r) =>
    sameState(stateOf(stored.get(r.enrolmentId)?.get(String(r.activityId))), r.after),
  );
  if (still.length === 0) return [];
  await write(
    tx,
    still.map((r) => ({ ...r, before: r.after, after: r.before })),
  );
  await tx.orm
    .update(scoreChanges)
    .set({ undoneAt: nowDate() })
    .where(
      idsIn(
        scoreChanges.id,
        still.map((r) => r.id),
      ),
    );
  return still;
}

interface Written extends CellRef {
  readonly before: ScoreState;
  readonly after: ScoreState;
}

/** Flags and measures are computed again by whoever looks next. */
export async function outdate(access: Access, course: CourseRow, cells: readonly CellRef[]): Promise<void> {
  await revise(access, course.id, [...new Set(cells.map((c) => c.enrolmentId))]);
  await outdated(access, course.id);
}

async function write(access: Access, rows: readonly Written[]): Promise<void> {
  const date = (at: number | null) => (at == null ? null : new Date(at));
  const keys = [scores.enrolmentId, scores.activityId];
  // A row about which nothing is known is no row: an import of the same file finds all as it was.
  const isEmpty = (w: Written) => sameState(w.after, EMPTY_STATE);
  const placeOf = ({ enrolmentId, activityId }: Written) => ({ enrolmentId, activityId });
  await deleteMany(access, scores, keys, rows.filter(isEmpty).map(placeOf));
  await upsertMany(
    access,
    scores,
    keys,
    rows
      .filter((w) => !isEmpty(w))
      .map((w) => ({
        ...placeOf(w),
        points: w.after.points,
        excused: w.after.excused,
        submittedAt: date(w.after.submitted),
        gradedAt: date(w.after.graded),
        returnedAt: date(w.after.returned),
        ownDueAt: date(w.after.ownDue),
        extraAttempts: w.after.extraAttempts,
        fromStatements: false,
      })),
  );
}

/** Refuses cells outside the course, and students who have left it. */
async function placesOf({ orm }: Access, course: CourseRow, cells: readonly CellRef[]) {
  const works = await orm
    .select({ id: activities.id, points: activities.points })
    .from(activities)
    .where(eq(activities.courseId, course.id));
  const maxima = new Map(works.map((w) => [w.id, w.points]));
  if (cells.some((c) => !maxima.has(c.activityId))) throw notFound('assignment in this course');
  const ids = [...new Set(cells.map((c) => c.enrolmentId))];
  const people =
    ids.length === 0
      ? []
      : await orm
          .select({
            id: enrolments.id,
            status: enrolments.status,
            given: persons.given,
            family: persons.family,
          })
          .from(enrolments)
          .innerJoin(persons, eq(persons.id, enrolments.personId))
          .where(and(eq(enrolments.courseId, course.id), idsIn(enrolments.id, ids)));
  if (people.length !== ids.length) throw notFound('student in this course');
  const gone = people.find((p) => p.status !== 'active');
  if (gone) throw invalid(`${fullName(gone)} has left the course (${gone.status}); nothing was changed.`);
  return { maximumOf: (activityId: number) => maxima.get(activityId) ?? null };
}

/** Who stands in the way of each of some cells, and with what. */
async function conflictsOf(
  { orm }: Access,
  cells: readonly CellRef[],
  foundOf: (cell: CellRef) => FullScore | undefined,
): Promise<Conflict[]> {
  if (cells.length === 0) return [];
  const ids = [...new Set(cells.map((c) => c.enrolmentId))];
  const works = [...new Set(cells.map((c) => c.activityId))];
  const last = await orm
    .selectDistinctOn([scoreChanges.enrolmentId, scoreChanges.activityId], {
      enrolmentId: scoreChanges.enrolmentId,
      activityId: scoreChanges.activityId,
      by: user.name,
      at: scoreChanges.at,
    })
    .from(scoreChanges)
    .leftJoin(user, eq(user.id, scoreChanges.userId))
    .where(and(idsIn(scoreChanges.enrolmentId, ids), idsIn(scoreChanges.activityId, works)))
    .orderBy(scoreChanges.enrolmentId, scoreChanges.activityId, desc(scoreChanges.id));
  const lastOf = new Map(last.map((l) => [`${l.enrolmentId} ${l.activityId}`, l]));
  const titles = await orm
    .select({ id: activities.id, title: activities.title })
    .from(activities)
    .where(idsIn(activities.id, works));
  const titleOf = new Map(titles.map((t) => [t.id, t.title]));
  const people = await orm
    .select({ id: enrolments.id, given: persons.given, family: persons.family })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(idsIn(enrolments.id, ids));
  const nameOf = new Map(people.map((p) => [p.id, fullName(p)]));
  return cells.map((cell) => {
    const found = foundOf(cell);
    const by = lastOf.get(`${cell.enrolmentId} ${cell.activityId}`);
    return {
      enrolmentId: cell.enrolmentId,
      activityId: cell.activityId,
      student: nameOf.get(cell.enrolmentId) ?? '',
      title: titleOf.get(cell.activityId) ?? '',
      points: found?.points ?? null,
      excused: found?.excused ?? false,
      by: by?.by ?? null,
      at: by?.at.getTime() ?? null,
    };
  });
}
