import { and, asc, eq } from 'drizzle-orm';
import { localDate } from '@/core/calendar/zone';
import { trendSentence } from '@/core/gradebook/trendWords';
import type { AttemptsLine, BriefMore, BriefView } from '@/core/views/brief';
import { activities, attempts } from '@/data/schema';
import { besideOf } from '@/data/queries/beside';
import { now } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { notesOf } from '@/data/queries/acts';
import type { Viewer } from '../access/viewer';
import { happenedSince } from '../follow/happenedSince';
import { type Snapshot } from '../snapshot/snapshot';

/** Notes, attempts, and what happened since the last talk: what only the page of a student shows. */
export async function moreOf(viewer: Viewer, snapshot: Snapshot, brief: BriefView): Promise<BriefMore> {
  const { row: course } = await snapshot.model();
  const written = await notesOf(await database(), viewer.userId, brief.student.enrolmentId);
  const talk = written.find((n) => n.kind !== 'note');
  return {
    notes: written,
    sinceTalk: talk
      ? { on: talk.on, by: talk.by, ...(await happenedSince(snapshot, brief.student.enrolmentId, talk.on)) }
      : null,
    attempts: await attemptLines(course, brief.student.enrolmentId),
    beside: await besideOf(await database(), brief.student.enrolmentId),
    today: localDate(now(), course.zone),
    standingTrend: trendSentence(brief.measures?.trend ?? null),
  };
}

async function attemptLines(course: CourseRow, enrolmentId: number): Promise<AttemptsLine[]> {
  const { orm } = await database();
  const rows = await orm
    .select({ attempt: attempts, activity: activities })
    .from(attempts)
    .innerJoin(activities, eq(activities.id, attempts.activityId))
    .where(and(eq(attempts.enrolmentId, enrolmentId), eq(activities.courseId, course.id)))
    .orderBy(asc(attempts.number));
  const byWork = new Map<number, typeof rows>();
  for (const row of rows) byWork.set(row.activity.id, [...(byWork.get(row.activity.id) ?? []), row]);
  return [...byWork.values()]
    .map((list): AttemptsLine => {
      const { activity } = list[0]!;
      const of = (row: (typeof rows)[number]) => ({
        at: row.attempt.submittedAt.getTime(),
        points: row.attempt.points,
      });
      const points = list.flatMap((r) => (r.attempt.points == null ? [] : [r.attempt.points]));
      return {
        activityId: activity.id,
        title: activity.title,
        due: activity.dueAt?.getTime() ?? null,
        maximum: activity.points,
        first: of(list[0]!),
        best: points.length > 0 ? Math.max(...points) : null,
        last: of(list.at(-1)!),
        count: list.length,
      };
    })
    .sort((a, b) => b.last.at - a.last.at);
}
