import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Score } from '@/core/course/gradebook';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { enrolments, scores } from '@/data/schema';
import { packed, packedInstant, unpack } from '@/data/queries/packed';
import { type ScoreState, EMPTY_STATE } from '@/core/gradebook/changes';

/** Everything that stands in the gradebook of one student and activity. */
export interface FullScore extends Score {
  readonly graded: Instant | null;
  readonly due: Instant | null;
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
  return new Map(
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
            extraAttempts: Number(value(7)),
          },
        ]),
      ),
    ]),
  );
}

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
