import { and, asc, desc, eq } from 'drizzle-orm';
import { attemptMinutes } from '@/core/activity/attemptMinutes';
import { dueFor } from '@/core/gradebook/status';
import type { AttemptView, CellView } from '@/core/views/gradebook';
import { activityDays, attempts, seenEvents, scoreChanges, user } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { loadCourseModel } from '@/data/queries/courseModel';
import { loadScores } from '@/data/queries/scores';
import { notFound } from '../base/errors';
import { roster } from '../snapshot/roster';
import { requireCourse, type Viewer } from '../access/viewer';
import { stateOf } from '@/data/queries/scores';
import { cellStatus, joinedAt } from '../snapshot/cellStatus';

/** Words for the first, the last and the best of several attempts. */
function noteOf(i: number, all: readonly { readonly points: number | null }[]): string {
  const best = Math.max(...all.map((a) => a.points ?? -Infinity));
  const notes = [
    i === 0 && all.length > 1 ? 'first' : '',
    all[i]!.points != null && all[i]!.points === best && all.findIndex((a) => a.points === best) === i
      ? 'best'
      : '',
    i === all.length - 1 && all.length > 1 ? 'last' : '',
  ];
  return notes.filter(Boolean).join(', ');
}

/** Everything about one student's work: status, attempts with their minutes, and the history of its grade. */
export async function cellView(
  viewer: Viewer,
  code: string,
  enrolmentId: number,
  activityId: number,
): Promise<CellView> {
  const row = await requireCourse(viewer, 'look', code);
  const db = await database();
  const { orm } = db;
  const course = await loadCourseModel(db, row.id);
  const activity = course.activities.find((a) => a.id === activityId);
  const [person] = await roster(row.id, [enrolmentId]);
  if (!activity || !person) throw notFound('assignment of a student in this course');
  const score = (await loadScores(db, row.id, [enrolmentId])).get(enrolmentId)?.get(String(activityId));
  const own = and(eq(attempts.enrolmentId, enrolmentId), eq(attempts.activityId, activityId));
  const tries = await orm.select().from(attempts).where(own).orderBy(asc(attempts.number));
  const known =
    tries.length > 0
      ? tries.map((t) => ({ number: t.number, submitted: t.submittedAt.getTime(), points: t.points }))
      : score?.submitted != null
        ? [{ number: 1, submitted: score.submitted, points: score.points }]
        : [];
  const worked = await orm
    .select({
      at: seenEvents.at,
      activityId: seenEvents.activityId,
      durationS: seenEvents.durationS,
      kind: seenEvents.kind,
    })
    .from(seenEvents)
    .where(eq(seenEvents.enrolmentId, enrolmentId))
    .orderBy(asc(seenEvents.at));
  const minutes = attemptMinutes(
    worked.map((e) => ({
      at: e.at.getTime(),
      onWork: e.activityId === activityId,
      login: e.kind === 'login',
      duration: e.durationS,
    })),
    known.map((a) => a.submitted),
    row.sessionGapMinutes,
  );
  const days = await orm
    .select({ seconds: activityDays.seconds })
    .from(activityDays)
    .where(and(eq(activityDays.enrolmentId, enrolmentId), eq(activityDays.activityId, activityId)));
  const history = await orm
    .select({ change: scoreChanges, by: user.name })
    .from(scoreChanges)
    .leftJoin(user, eq(user.id, scoreChanges.userId))
    .where(and(eq(scoreChanges.enrolmentId, enrolmentId), eq(scoreChanges.activityId, activityId)))
    .orderBy(desc(scoreChanges.id));
  return {
    enrolmentId,
    activityId,
    student: person.name,
    title: activity.title,
    kind: activity.kind,
    maximum: activity.points,
    status: cellStatus(activity, score, joinedAt(course, person), now()),
    state: stateOf(score),
    due: dueFor({ due: activity.dueAt?.getTime() ?? null }, score),
    attemptsAllowed:
      activity.attemptsAllowed == null ? null : activity.attemptsAllowed + (score?.extraAttempts ?? 0),
    attempts: known.map((a, i): AttemptView => ({ ...a, minutes: minutes[i]!, note: noteOf(i, known) })),
    minutes: days.reduce((sum, d) => sum + d.seconds, 0) / 60,
    changes: history.map(({ change, by }) => ({
      id: change.id,
      action: change.action,
      by,
      at: change.at.getTime(),
      before: change.before,
      after: change.after,
      undone: change.undoneAt != null,
    })),
  };
}
