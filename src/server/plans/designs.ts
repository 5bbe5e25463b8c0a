import { and, eq, sql } from 'drizzle-orm';
import { switchFault } from '@/core/forms/design';
import { addDays, localDate } from '@/core/calendar/zone';
import { asPlanned } from '@/core/plans/change';
import { withExpected } from '@/core/plans/expected';
import { wantedFrom } from '@/core/plans/handOut';
import type { DesignState, PlanDesign } from '@/core/plans/design';
import type { PlanView } from '@/core/plans/plan';
import type { SectionMark } from '@/core/plans/preCheck';
import { replan } from '@/core/plans/replan';
import type { Percent } from '@/core/units';
import type { CourseModel } from '@/data/queries/courseModel';
import { designsOf, type DesignRow } from '@/data/queries/plans';
import type { Access } from '@/data/database';
import { planCourses, planDesigns } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { queuePlans } from '../derive/outdated';
import { wakeRunner } from '../jobs/queue';
import { snapshotOf } from '../snapshot/snapshot';
import { studyMaterial } from './facts';
import { planSettings } from './setting';
import { underLock } from '@/data/write/underLock';

/** What a design names that the course does not have (any more), in words. */
export function goneFrom(design: PlanDesign, model: CourseModel): string[] {
  const activities = new Map(model.activities.map((a) => [a.id, a]));
  const outcomes = new Set(model.outcomes.map((o) => o.id));
  const groups = [...design.sections, ...(design.branch?.lanes ?? [])];
  const steps = groups.flatMap((g) => g.steps);
  const gone = steps
    .filter(
      (s) =>
        (s.activityId != null && !activities.has(s.activityId)) ||
        (s.outcomeId != null && !outcomes.has(s.outcomeId)),
    )
    .map((s) => `The step “${s.title}” is of something that is not in the course.`);
  const { branch, preCheckId, sections } = design;
  if (branch && !activities.get(branch.quizId)?.points)
    gone.push('The quiz whose score decides is not in the course, or has no points.');
  if (preCheckId != null && !activities.has(preCheckId)) gone.push('The pre-check is not in the course.');
  if (sections.some((s) => s.outcomeId != null && !outcomes.has(s.outcomeId)))
    gone.push('A section is for an outcome that is not in the course.');
  return gone;
}

/** A design of a course; refused if there is none of that id. */
export async function designIn(access: Access, courseId: number, id: number): Promise<DesignRow> {
  const found = (await designsOf(access, courseId)).find((d) => d.id === id);
  if (!found) throw notFound('plan design in this course');
  return found;
}

/** Has everybody's plans looked at again, in the transaction that changes a design. */
async function lookAgain(tx: Access, courseId: number): Promise<void> {
  await tx.orm
    .insert(planCourses)
    .values({ courseId, designs: 1 })
    .onConflictDoUpdate({
      target: planCourses.courseId,
      set: { designs: sql`${planCourses.designs} + 1` },
    });
  await queuePlans(tx, courseId);
}

/** Keeps a design, a new one if `id` is null; one that is on hands out what has changed. `was` as in `refuseStale`. Returns its id. */
export async function saveDesign(
  viewer: Viewer,
  code: string,
  id: number | null,
  design: PlanDesign,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const model = await (await snapshotOf(course)).model();
  const [gone] = goneFrom(design, model);
  const set = { title: design.title.trim(), design, changedAt: nowDate() };
  if (id == null) {
    if (gone) throw invalid(gone);
    const [made] = await db.orm
      .insert(planDesigns)
      .values({ courseId: course.id, userId: viewer.userId, state: 'draft', ...set })
      .returning({ id: planDesigns.id });
    return made!.id;
  }
  if (gone) throw invalid(gone);
  await underLock(db, course.id, async (tx) => {
    const before = await designIn(tx, course.id, id);
    refuseStale(was, before.design);
    const fault = before.state === 'on' ? switchFault(design) : null;
    if (fault) throw invalid(`${fault} The plan is switched on; switch it off to leave it unfinished.`);
    await tx.orm.update(planDesigns).set(set).where(eq(planDesigns.id, id));
    if (before.state === 'on') await lookAgain(tx, course.id);
  });
  wakeRunner();
  return id;
}

/** Switches a design on or off. What was handed out stays, and follows it no more while it is off. */
export async function switchDesign(
  viewer: Viewer,
  code: string,
  id: number,
  state: DesignState,
): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const model = await (await snapshotOf(course)).model();
  const db = await database();
  await underLock(db, course.id, async (tx) => {
    const found = await designIn(tx, course.id, id);
    const fault = state === 'on' ? (goneFrom(found.design, model)[0] ?? switchFault(found.design)) : null;
    if (fault) throw invalid(fault);
    await tx.orm.update(planDesigns).set({ state, changedAt: nowDate() }).where(eq(planDesigns.id, id));
    await lookAgain(tx, course.id);
  });
  wakeRunner();
}

/** Lets the plans go that are ready, and from now on those that become ready. */
export async function releaseDesign(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  await underLock(db, course.id, async (tx) => {
    const found = await designIn(tx, course.id, id);
    if (found.state !== 'on') throw invalid('Switch the plan on first.');
    await tx.orm
      .update(planDesigns)
      .set({
        releasedAt: sql`coalesce(${planDesigns.releasedAt}, ${nowDate().toISOString()}::timestamptz)`,
        changedAt: nowDate(),
      })
      .where(eq(planDesigns.id, id));
    await lookAgain(tx, course.id);
  });
  wakeRunner();
}

/** Removes a design. Plans that were handed out from it stay with their students. */
export async function removeDesign(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  await designIn(db, course.id, id);
  await db.orm.delete(planDesigns).where(and(eq(planDesigns.id, id), eq(planDesigns.courseId, course.id)));
}

/** Minutes a day at which a design is tried. */
const TRIED_MINUTES = 30;

/** What a student with a score would get from a design as it is written, and when: nothing is stored. */
export async function tryDesign(
  viewer: Viewer,
  code: string,
  design: PlanDesign,
  { percent, mark }: { readonly percent: Percent | null; readonly mark: SectionMark | null },
): Promise<PlanView | null> {
  const course = await requireCourse(viewer, 'act', code);
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const material = await studyMaterial(snapshot);
  const titles = new Map(model.outcomes.map((o) => [o.id, o.title]));
  // Of no student: nothing is done yet.
  const nobody = 0;
  const wanted = wantedFrom(design, {
    score: percent == null ? 'waits' : { percent },
    preCheckOpen: design.preCheckId != null && mark == null,
    mark: () => (design.preCheckId == null ? null : mark),
    outcomeTitle: (id) => titles.get(id) ?? null,
    goOver: design.branch ? material.goOverAll(design.branch.quizId) : [],
    ...material.of(nobody),
  });
  if (!wanted) return null;
  const settings = await planSettings(await database(), snapshot, []);
  const from = addDays(localDate(now(), model.term.zone), 1);
  const setting = settings(nobody, from, { minutesPerDay: TRIED_MINUTES, weekdaysOff: [] });
  const steps = withExpected(
    wanted.parts,
    wanted.steps.map((s, i) => asPlanned(s, i + 1, setting)),
  );
  const found = replan(wanted.parts, steps, setting);
  if (!found.ok) throw invalid(found.reason);
  const { on, order } = found.value;
  const byId = new Map(steps.map((s) => [s.id, s]));
  return {
    id: 0,
    enrolmentId: nobody,
    by: viewer.name,
    at: now(),
    designId: null,
    title: design.title,
    said: null,
    saidAt: null,
    parts: wanted.parts,
    steps: order.map((id) => ({ ...byId.get(id)!, on: on.get(id)! })),
  };
}
