import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import { EMPTY_STATE, sameState, type GradeAction, type ScoreState } from '@/core/gradebook/changes';
import type { CellRef, Changed, Conflict, SeenCell } from '@/core/views/gradebook';
import type { Access } from '@/data/database';
import { activities, enrolments, persons, scoreChanges, scores, user } from '@/data/schema';
import { nowDate } from '../clock';
import { database } from '../database';
import { lockCourse, type CourseRow } from '../derive/courseModel';
import { revise } from '../derive/revision';
import { loadScores, type FullScore } from '../derive/scores';
import { invalid, notFound, UseCaseError } from '../errors';
import { fullName } from '../roster';
import { requireTaught, type Viewer } from '../viewer';

/** One cell to change, and how. */
export interface CellChange extends SeenCell {
  readonly to: (state: ScoreState, maximum: number | null) => ScoreState;
}

/** Most cells changed in one go: a course of 500 in a column of ten pastes. */
export const MOST_CELLS = 5000;

export const stateOf = (score: FullScore | undefined): ScoreState =>
  score
    ? {
        points: score.points,
        excused: score.excused,
        submitted: score.submitted,
        graded: score.graded,
        returned: score.returned,
        ownDue: score.due,
        extraAttempts: score.extraAttempts,
      }
    : EMPTY_STATE;

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
  const course = await requireTaught(viewer, code);
  if (changes.length > MOST_CELLS) throw invalid(`Change at most ${MOST_CELLS} cells at once.`);
  const db = await database();
  return db.transaction(async (tx) => {
    await lockCourse(tx, course.id);
    const place = await placesOf(tx, course, changes);
    const stored = await loadScores(tx, course.id, [...new Set(changes.map((c) => c.enrolmentId))]);
    const batch = randomUUID();
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
    await write(tx, written);
    if (written.length > 0) {
      await tx.orm.insert(scoreChanges).values(
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
      await outdate(tx, course, written);
    }
    return {
      batch: written.length > 0 ? batch : null,
      changed: written.length,
      conflicts: await Promise.all(
        conflicts.map((c) => conflictOf(tx, c, stored.get(c.enrolmentId)?.get(String(c.activityId)))),
      ),
    };
  });
}

/**
 * Takes a batch of changes back. Cells that somebody changed since then keep what they hold; if all of them were, the
 * undo is refused.
 */
export async function undoBatch(viewer: Viewer, code: string, batch: string): Promise<number> {
  const course = await requireTaught(viewer, code);
  const db = await database();
  return db.transaction(async (tx) => {
    await lockCourse(tx, course.id);
    const rows = await tx.orm
      .select()
      .from(scoreChanges)
      .where(
        and(
          eq(scoreChanges.batch, batch),
          eq(scoreChanges.courseId, course.id),
          isNull(scoreChanges.undoneAt),
        ),
      );
    if (rows.length === 0) throw notFound('change to take back');
    const stored = await loadScores(tx, course.id, [...new Set(rows.map((r) => r.enrolmentId))]);
    const still = rows.filter((r) =>
      sameState(stateOf(stored.get(r.enrolmentId)?.get(String(r.activityId))), r.after),
    );
    if (still.length === 0)
      throw new UseCaseError('conflict', 'Somebody has changed this since; nothing was taken back.');
    await write(
      tx,
      still.map((r) => ({ ...r, before: r.after, after: r.before })),
    );
    await tx.orm
      .update(scoreChanges)
      .set({ undoneAt: nowDate() })
      .where(
        inArray(
          scoreChanges.id,
          still.map((r) => r.id),
        ),
      );
    await outdate(tx, course, still);
    return still.length;
  });
}

interface Written extends CellRef {
  readonly before: ScoreState;
  readonly after: ScoreState;
}

/** Flags and measures are computed again by whoever looks next. */
const outdate = (access: Access, course: CourseRow, cells: readonly CellRef[]) =>
  revise(access, course.id, [...new Set(cells.map((c) => c.enrolmentId))], { evaluatedAt: null });

async function write({ orm }: Access, rows: readonly Written[]): Promise<void> {
  const date = (at: number | null) => (at == null ? null : new Date(at));
  for (const { enrolmentId, activityId, after } of rows) {
    const values = {
      points: after.points,
      excused: after.excused,
      submittedAt: date(after.submitted),
      gradedAt: date(after.graded),
      returnedAt: date(after.returned),
      ownDueAt: date(after.ownDue),
      extraAttempts: after.extraAttempts,
      fromStatements: false,
    };
    if (sameState(after, EMPTY_STATE)) {
      // A row about which nothing is known is no row: an import of the same file finds all as it was.
      await orm
        .delete(scores)
        .where(and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, activityId)));
    } else {
      await orm
        .insert(scores)
        .values({ enrolmentId, activityId, ...values })
        .onConflictDoUpdate({ target: [scores.enrolmentId, scores.activityId], set: values });
    }
  }
}

/** Refuses cells outside the course, and students who have left it. */
async function placesOf({ orm }: Access, course: CourseRow, cells: readonly CellRef[]) {
  const works = await orm
    .select({ id: activities.id, points: activities.points })
    .from(activities)
    .where(eq(activities.courseId, course.id));
  const maxima = new Map(works.map((w) => [w.id, w.points]));
  if (cells.some((c) => !maxima.has(c.activityId))) throw notFound('work in this course');
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
          .where(and(eq(enrolments.courseId, course.id), inArray(enrolments.id, ids)));
  if (people.length !== ids.length) throw notFound('student in this course');
  const gone = people.find((p) => p.status !== 'active');
  if (gone) throw invalid(`${fullName(gone)} has left the course (${gone.status}); nothing was changed.`);
  return { maximumOf: (activityId: number) => maxima.get(activityId) ?? null };
}

/** Who stands in the way, and with what. */
async function conflictOf({ orm }: Access, cell: CellRef, found: FullScore | undefined): Promise<Conflict> {
  const [last] = await orm
    .select({ by: user.name, at: scoreChanges.at })
    .from(scoreChanges)
    .leftJoin(user, eq(user.id, scoreChanges.userId))
    .where(and(eq(scoreChanges.enrolmentId, cell.enrolmentId), eq(scoreChanges.activityId, cell.activityId)))
    .orderBy(desc(scoreChanges.id))
    .limit(1);
  const [work] = await orm
    .select({ title: activities.title })
    .from(activities)
    .where(eq(activities.id, cell.activityId));
  const [person] = await orm
    .select({ given: persons.given, family: persons.family })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.id, cell.enrolmentId));
  return {
    enrolmentId: cell.enrolmentId,
    activityId: cell.activityId,
    student: person ? fullName(person) : '',
    title: work?.title ?? '',
    points: found?.points ?? null,
    excused: found?.excused ?? false,
    by: last?.by ?? null,
    at: last?.at.getTime() ?? null,
  };
}
