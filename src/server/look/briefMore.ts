import { and, asc, eq, gte } from 'drizzle-orm';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { trendSentence } from '@/core/gradebook/trendWords';
import type { AttemptsLine, BriefMore, BriefView, SinceTalk } from '@/core/views/brief';
import type { NoteView } from '@/core/views/notes';
import { activities, attempts, dayTotals } from '@/data/schema';
import { besideOf } from './briefBeside';
import { now } from '../base/clock';
import { database } from '../base/database';
import type { CourseRow } from '../snapshot/courseModel';
import { loadScores } from '../snapshot/scores';
import { notesOf } from '../act/notes';
import type { Viewer } from '../access/viewer';

/** Notes, attempts, and what happened since the last talk: what only the page of a student shows. */
export async function moreOf(viewer: Viewer, course: CourseRow, brief: BriefView): Promise<BriefMore> {
  const written = await notesOf(viewer, brief.student.enrolmentId);
  const talk = written.find((n) => n.kind !== 'note');
  return {
    notes: written,
    sinceTalk: talk ? await since(course, brief, talk) : null,
    attempts: await attemptLines(course, brief.student.enrolmentId),
    beside: await besideOf(brief.student.enrolmentId),
    today: localDate(now(), course.zone),
    standingTrend: trendSentence(brief.measures?.trend ?? null),
  };
}

async function since(course: CourseRow, brief: BriefView, talk: NoteView): Promise<SinceTalk> {
  const { orm } = await database();
  const { enrolmentId } = brief.student;
  const from = startOfDay(talk.on, course.zone);
  const at = now();
  const days = await orm
    .select({ seconds: dayTotals.seconds })
    .from(dayTotals)
    .where(and(eq(dayTotals.enrolmentId, enrolmentId), gte(dayTotals.day, talk.on)));
  const works = await orm.select().from(activities).where(eq(activities.courseId, course.id));
  const own = (await loadScores(await database(), course.id, [enrolmentId])).get(enrolmentId);
  const within = (instant: number | null | undefined) => instant != null && instant >= from && instant <= at;
  return {
    on: talk.on,
    by: talk.by,
    days: days.length,
    minutes: days.reduce((sum, d) => sum + d.seconds, 0) / 60,
    handedIn: works.filter((w) => within(own?.get(String(w.id))?.submitted)).map((w) => w.title),
    returned: works.flatMap((w) => {
      const score = own?.get(String(w.id));
      return score && within(score.returned) && score.points != null && w.points
        ? [{ title: w.title, percent: (100 * score.points) / w.points }]
        : [];
    }),
    ticked: brief.plans.flatMap((p) => p.steps).filter((s) => within(s.doneAt)).length,
    opened: brief.reasons.filter((r) => r.openedOn >= talk.on).map((r) => r.head),
    closed: brief.pastFlags.filter((r) => r.closedOn! >= talk.on).map((r) => r.kind),
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
