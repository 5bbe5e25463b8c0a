import { asc, eq } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import { isResource } from '@/core/course/kinds';
import { dueFor, isLate, isReturned } from '@/core/gradebook/status';
import type { Instant } from '@/core/units';
import type { OwnAssignment } from '@/core/views/assignment';
import { attempts } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import type { Snapshot } from '../snapshot/snapshot';
import { cellStatus } from '../snapshot/cellStatus';

/**
 * All assignments of a course as they stand for one student, by due date; those without one last.
 *
 * @param joined from when on the student is in the course; null for all the term
 */
export async function assignmentsOf(
  snapshot: Snapshot,
  enrolmentId: number,
  joined: Instant | null,
): Promise<OwnAssignment[]> {
  const course = await snapshot.model();
  const own = (await snapshot.scores()).get(enrolmentId);
  const { orm } = await database();
  const tries = groupBy(
    await orm
      .select()
      .from(attempts)
      .where(eq(attempts.enrolmentId, enrolmentId))
      .orderBy(asc(attempts.number)),
    (a) => a.activityId,
  );
  const asOf = now();
  return course.activities
    .filter((a) => !isResource(a.kind) && own?.get(String(a.id))?.notTheirs !== true)
    .map((activity): OwnAssignment => {
      const score = own?.get(String(activity.id));
      const returned = score != null && isReturned(score, asOf);
      const due = dueFor({ due: activity.dueAt?.getTime() ?? null }, score);
      return {
        id: activity.id,
        title: activity.title,
        kind: activity.kind,
        due,
        status: cellStatus(activity, score, joined, asOf),
        late: isLate({ due }, score, asOf),
        points: returned ? (score.points ?? null) : null,
        maximum: activity.points,
        submitted: score?.submitted ?? null,
        feedbackAt: returned ? (score.returned ?? null) : null,
        attempts: (tries.get(activity.id) ?? []).map((t) => t.points),
        outcomes: outcomeTitles(course, activity.id),
      };
    })
    .sort((a, b) => (a.due ?? Infinity) - (b.due ?? Infinity) || a.id - b.id);
}
