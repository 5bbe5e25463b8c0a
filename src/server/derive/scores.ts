import { and, eq, inArray, sql } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { Score } from '@/core/gradebook/model';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { enrolments, scores } from '@/data/schema';

/** Everything that stands in the gradebook of one student and activity. */
export interface FullScore extends Score {
  readonly graded: Instant | null;
  readonly due: Instant | null;
  readonly extraAttempts: number;
}

const number = (text: string | undefined) => (text ? Number(text) : null);

/**
 * The gradebook of the active students of a course, or of some enrolments, by enrolment and activity. One row a
 * student comes back, its cells packed in a text: sixty thousand rows of timestamps take several times as long.
 */
export async function loadScores(
  { orm }: Access,
  courseId: number,
  only?: readonly number[],
): Promise<Map<number, Map<string, FullScore>>> {
  const ms = (column: AnyPgColumn) => sql`coalesce((extract(epoch from ${column}) * 1000)::bigint::text, '')`;
  const found = await orm
    .select({
      id: scores.enrolmentId,
      cells: sql<string>`string_agg(concat_ws('|', ${scores.activityId}, coalesce(${scores.points}::text, ''),
        ${ms(scores.submittedAt)}, ${ms(scores.gradedAt)}, ${ms(scores.returnedAt)},
        case when ${scores.excused} then '1' else '' end, ${ms(scores.ownDueAt)}, ${scores.extraAttempts}), ';')`,
    })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, courseId),
        only ? inArray(enrolments.id, [...only]) : eq(enrolments.status, 'active'),
      ),
    )
    .groupBy(scores.enrolmentId);
  const byStudent = new Map<number, Map<string, FullScore>>();
  for (const { id, cells } of found) {
    const scores = new Map<string, FullScore>();
    for (const cell of cells.split(';')) {
      const [activity, points, submitted, graded, returned, excused, due, extra] = cell.split('|');
      scores.set(activity!, {
        activity: activity!,
        points: number(points),
        submitted: number(submitted),
        graded: number(graded),
        returned: number(returned),
        excused: excused === '1',
        due: number(due),
        extraAttempts: number(extra) ?? 0,
      });
    }
    byStudent.set(id, scores);
  }
  return byStudent;
}
