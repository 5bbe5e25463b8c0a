import { eq, sql } from 'drizzle-orm';
import { switchFault } from '@/core/forms/design';
import { groupBy } from '@/core/groupBy';
import { planProgress } from '@/core/plans/progress';
import type { DesignLine, DesignView } from '@/core/views/design';
import type { Database } from '@/data/database';
import { answersNow, activities as activityTable, plans } from '@/data/schema';
import { designsOf } from '@/data/queries/plans';
import { idsIn } from '@/data/queries/idsIn';
import { requireCourse, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';
import { tickedPlans } from '../snapshot/tickedPlans';
import { designIn, goneFrom } from './designs';
import { decidingScores } from './facts';

/** The plan designs of a course. */
export async function designLines(viewer: Viewer, code: string): Promise<DesignLine[]> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { activities } = await (await snapshotOf(course)).model();
  const titles = new Map(activities.map((a) => [a.id, a.title]));
  const all = await designsOf(db, course.id);
  const counts = await db.orm
    .select({ id: plans.designId, n: sql`count(*)`.mapWith(Number) })
    .from(plans)
    .where(
      idsIn(
        plans.designId,
        all.map((d) => d.id),
      ),
    )
    .groupBy(plans.designId);
  const countOf = new Map(counts.map((c) => [c.id, c.n]));
  return all.map(({ id, title, state, design }) => ({
    id,
    title,
    state,
    quiz: design.branch ? (titles.get(design.branch.quizId) ?? null) : null,
    handedOut: countOf.get(id) ?? 0,
  }));
}

/** The quiz of a course that was due last: a new design begins with it. Null if none was due. */
export async function latestQuiz(viewer: Viewer, code: string): Promise<number | null> {
  const course = await requireCourse(viewer, 'act', code);
  const { activities } = await (await snapshotOf(course)).model();
  const at = now();
  const due = activities
    .filter((a) => a.kind === 'quiz' && a.points && a.dueAt != null && a.dueAt.getTime() <= at)
    .sort((a, b) => b.dueAt!.getTime() - a.dueAt!.getTime());
  return due[0]?.id ?? null;
}

/** A plan design with what it is written from, and who stands where on its scale. */
export async function designView(viewer: Viewer, code: string, id: number): Promise<DesignView> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const row = await designIn(await database(), course.id, id);
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const people = (await roster(course.id)).filter((p) => p.status === 'active');
  const ids = people.map((p) => p.enrolmentId);
  const scoreOf = await decidingScores(db, snapshot, row.design, ids);
  const given = (await tickedPlans(snapshot, ids)).filter((p) => p.designId === id);
  const planOf = new Map(given.map((p) => [p.enrolmentId, p]));
  const at = now();
  const scored = people.map((p) => ({ p, score: scoreOf(p.enrolmentId) }));
  return {
    id,
    state: row.state,
    released: row.releasedAt != null,
    design: row.design,
    activities: model.activities.map(({ id: activity, title, kind, minutes, points }) => ({
      id: activity,
      title,
      kind,
      minutes,
      points,
    })),
    outcomes: model.outcomes.map(({ id: outcome, title }) => ({ id: outcome, title })),
    items: await itemsByQuiz(db, course.id),
    students: scored.flatMap(({ p, score }) => {
      if (typeof score !== 'object') return [];
      const plan = planOf.get(p.enrolmentId);
      return [
        {
          id: p.enrolmentId,
          name: p.name,
          percent: score.percent,
          goes: plan ? planProgress(plan, at) : null,
        },
      ];
    }),
    waiting: row.design.branch ? scored.filter((s) => s.score === 'waits').length : 0,
    excused: scored.filter((s) => s.score === 'excused').length,
    handedOut: given.length,
    fault: switchFault(row.design),
    gone: goneFrom(row.design, model),
  };
}

/** The items of each quiz of a course that somebody has answered. */
async function itemsByQuiz({ orm }: Database, courseId: number): Promise<Record<number, string[]>> {
  const rows = await orm
    .selectDistinct({ activity: sql`${answersNow.activityId}`.mapWith(Number), item: answersNow.item })
    .from(answersNow)
    .innerJoin(activityTable, eq(activityTable.id, answersNow.activityId))
    .where(eq(activityTable.courseId, courseId));
  const sorted = (list: readonly { item: string }[]) =>
    list.map((r) => r.item).sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  return Object.fromEntries(
    [...groupBy(rows, (r) => r.activity)].map(([activity, list]) => [activity, sorted(list)]),
  );
}
