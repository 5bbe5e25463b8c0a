import { and, count, eq } from 'drizzle-orm';
import { bandOf, cutsFor, USUAL_BANDS } from '@/core/gradebook/bands';
import { summarise } from '@/core/gradebook/distribution';
import { isLate } from '@/core/gradebook/status';
import { itemDifficulties, type ItemDifficulty } from '@/core/items/difficulty';
import { HOUR_MS } from '@/core/units';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
import type { WorkRow, WorkView } from '@/core/views/work';
import { activityTotals, attempts, enrolments } from '@/data/schema';
import { database } from '../base/database';
import type { ActivityRow, CourseModel } from '@/data/queries/courseModel';
import { answersTo } from '@/data/queries/responses';
import type { FullScore } from '@/data/queries/scores';
import { notFound } from '../base/errors';
import { cellStatus, joinedAt } from '../snapshot/cellStatus';
import { gradebookColumns } from './gradebook';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import { roster } from '../snapshot/roster';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { openView } from './frame';

/** One work for the students of a scope, with the course and its sections beside it. */
export async function workView(
  viewer: Viewer,
  code: string,
  activityId: number,
  asked: AskedScope,
): Promise<WorkView> {
  const { row, snapshot, course, scope, people, frame } = await openView(viewer, code, asked);
  const activity = course.activities.find((a) => a.id === activityId);
  if (!activity) throw notFound('assignment in this course');
  const everyone = (await roster(row.id)).filter((p) => p.status === 'active');
  const all = await workRows(course, await snapshot.scores(), activity, everyone, scope.now);
  const shown = new Set(people.map((p) => p.enrolmentId));
  // Whose it is not is not counted among those who have it still to do.
  const rows = all.filter((r) => shown.has(r.enrolmentId) && r.status !== 'not assigned');
  const points = (list: readonly WorkRow[]) =>
    summarise(list.flatMap((r) => (r.status === 'graded' && r.points != null ? [r.points] : [])));
  const cuts = cutsFor(row.bands ?? USUAL_BANDS, activity.kind);
  const graded = rows.filter((r) => r.status === 'graded' && r.percent != null);
  const columns = gradebookColumns(course);
  const place = columns.findIndex((c) => c.id === activityId);
  return {
    ...frame,
    id: activity.id,
    title: activity.title,
    kind: activity.kind,
    category: course.categories.find((c) => c.id === activity.categoryId)?.name ?? null,
    maximum: activity.points,
    opens: activity.opensAt?.getTime() ?? null,
    due: activity.dueAt?.getTime() ?? null,
    estimated: activity.minutes,
    outcomes: outcomeTitles(course, activity.id),
    rows,
    summary: points(rows),
    courseSummary: points(all),
    sections: course.sections.map((s) => ({
      name: s.name,
      summary: points(all.filter((r) => r.section === s.name)),
    })),
    minutes: summarise(rows.flatMap((r) => (r.minutes > 0 ? [r.minutes] : []))),
    feedback: summarise(rows.flatMap((r) => (r.feedbackHours == null ? [] : [r.feedbackHours]))),
    cuts,
    items: await itemsOf(activity.id, shown),
    low: graded.filter((r) => bandOf(r.percent!, cuts) === 'low').length,
    graded: graded.length,
    before: columns[place - 1]?.id ?? null,
    after: place < 0 ? null : (columns[place + 1]?.id ?? null),
  };
}

async function itemsOf(activityId: number, shown: ReadonlySet<number>): Promise<ItemDifficulty[]> {
  const rows = await answersTo(await database(), activityId);
  return itemDifficulties(rows.filter((r) => shown.has(r.student)));
}

async function workRows(
  course: CourseModel,
  all: ReadonlyMap<number, ReadonlyMap<string, FullScore>>,
  activity: ActivityRow,
  people: readonly RosterEntry[],
  asOf: number,
): Promise<WorkRow[]> {
  const { orm } = await database();
  const time = await orm
    .select({ id: activityTotals.enrolmentId, seconds: activityTotals.seconds })
    .from(activityTotals)
    .where(eq(activityTotals.activityId, activity.id));
  const timeOf = new Map(time.map((t) => [t.id, t.seconds]));
  const tries = await orm
    .select({ id: attempts.enrolmentId, n: count() })
    .from(attempts)
    .innerJoin(enrolments, eq(enrolments.id, attempts.enrolmentId))
    .where(and(eq(attempts.activityId, activity.id), eq(enrolments.courseId, course.row.id)))
    .groupBy(attempts.enrolmentId);
  const triesOf = new Map(tries.map((t) => [t.id, t.n]));
  return people.map((person) => {
    const score = all.get(person.enrolmentId)?.get(String(activity.id));
    const status = cellStatus(activity, score, joinedAt(course, person), asOf);
    const returned = score?.returned ?? null;
    return {
      ...rowPerson(person),
      status,
      late: isLate({ due: activity.dueAt?.getTime() ?? null }, score, asOf),
      points: score?.points ?? null,
      percent: score?.points == null || !activity.points ? null : (100 * score.points) / activity.points,
      submitted: score?.submitted ?? null,
      feedbackHours:
        score?.submitted != null && returned != null && returned <= asOf && returned >= score.submitted
          ? (returned - score.submitted) / HOUR_MS
          : null,
      attempts: triesOf.get(person.enrolmentId) ?? (score?.submitted == null ? 0 : 1),
      minutes: (timeOf.get(person.enrolmentId) ?? 0) / 60,
      opened: timeOf.has(person.enrolmentId),
    };
  });
}
