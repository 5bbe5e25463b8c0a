import { and, eq, inArray, isNotNull, or, sql } from 'drizzle-orm';
import type { Score } from '@/core/course/gradebook';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { activities, enrolments, assignedActivities, scores } from '@/data/schema';
import { activeStudents } from './activeStudents';
import { packed, packedInstant, unpack } from '@/data/queries/packed';
import { type ScoreState, EMPTY_STATE } from '@/core/gradebook/changes';

/** Everything that stands in the gradebook of one student and activity. */
export interface FullScore extends Score {
  readonly graded: Instant | null;
  /** Due for them: by an extension, else by the date it was given to them with. */
  readonly due: Instant | null;
  /** An extension of their own. */
  readonly ownDue: Instant | null;
  readonly extraAttempts: number;
}

const number = (text: string) => (text ? Number(text) : null);

/**
 * The gradebook of the active students of a course, or of some enrolments, by enrolment and activity. One row a
 * student comes back, its cells packed in a text: sixty thousand rows of timestamps take several times as long.
 */
export async function loadScores(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, Map<string, FullScore>>> {
  const fields = [
    scores.activityId,
    sql`coalesce(${scores.points}::text, '')`,
    ...[scores.submittedAt, scores.gradedAt, scores.returnedAt].map(packedInstant),
    sql`case when ${scores.excused} then '1' else '' end`,
    packedInstant(scores.ownDueAt),
    scores.extraAttempts,
  ];
  const found = await orm
    .select({ id: scores.enrolmentId, cells: packed(fields) })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, courseId),
        only ? inArray(enrolments.id, [...only]) : eq(enrolments.status, 'active'),
      ),
    )
    .groupBy(scores.enrolmentId);
  const known = new Map(
    found.map(({ id, cells }) => [
      id,
      new Map(
        unpack(cells, fields.length, (value): [string, FullScore] => [
          value(0),
          {
            activity: value(0),
            points: number(value(1)),
            submitted: number(value(2)),
            graded: number(value(3)),
            returned: number(value(4)),
            excused: value(5) === '1',
            due: number(value(6)),
            ownDue: number(value(6)),
            extraAttempts: Number(value(7)),
          },
        ]),
      ),
    ]),
  );
  return withGiven({ orm }, courseId, known, only);
}

/**
 * The gradebook with what was given to single students: their own dates, and what was given to some is not expected of the
 * others. Where nothing was given, nothing is read beside one empty answer.
 */
async function withGiven(
  { orm }: Pick<Access, 'orm'>,
  courseId: number,
  known: Map<number, Map<string, FullScore>>,
  only?: readonly number[],
): Promise<Map<number, Map<string, FullScore>>> {
  const rows = await orm
    .select({ activity: activities.id, forSome: activities.forSome, row: assignedActivities })
    .from(activities)
    .leftJoin(assignedActivities, eq(assignedActivities.activityId, activities.id))
    .where(
      and(
        eq(activities.courseId, courseId),
        or(eq(activities.forSome, true), isNotNull(assignedActivities.id)),
      ),
    );
  if (rows.length === 0) return known;
  const students = only ?? (await activeStudents({ orm }, courseId));
  const cellsOf = (student: number) => {
    const cells = known.get(student) ?? new Map<string, FullScore>();
    known.set(student, cells);
    return cells;
  };
  const isWanted = new Set(students);
  const theirs = new Map<number, Set<number>>();
  for (const { activity, forSome, row } of rows) {
    if (forSome && !theirs.has(activity)) theirs.set(activity, new Set());
    if (!row || !isWanted.has(row.enrolmentId)) continue;
    theirs.get(activity)?.add(row.enrolmentId);
    const cells = cellsOf(row.enrolmentId);
    const score = cells.get(String(activity)) ?? emptyScore(activity);
    cells.set(String(activity), {
      ...score,
      due: score.ownDue ?? row.dueAt?.getTime() ?? null,
      opens: row.opensAt?.getTime() ?? null,
      closes: row.closesAt?.getTime() ?? null,
    });
  }
  for (const [activity, own] of theirs)
    for (const student of students) {
      // Who has done something of it all the same has done it.
      if (own.has(student) || known.get(student)?.has(String(activity))) continue;
      cellsOf(student).set(String(activity), { ...emptyScore(activity), excused: true, notTheirs: true });
    }
  return known;
}

const emptyScore = (activity: number): FullScore => ({
  activity: String(activity),
  points: null,
  submitted: null,
  graded: null,
  returned: null,
  excused: false,
  due: null,
  ownDue: null,
  extraAttempts: 0,
});

export const stateOf = (score: FullScore | undefined): ScoreState =>
  score && !score.notTheirs
    ? {
        points: score.points,
        excused: score.excused,
        submitted: score.submitted,
        graded: score.graded,
        returned: score.returned,
        ownDue: score.ownDue,
        extraAttempts: score.extraAttempts,
      }
    : EMPTY_STATE;
