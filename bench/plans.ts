import { and, eq, sql } from 'drizzle-orm';
import { addDays } from '@/core/calendar/zone';
import { FILE_KINDS } from '@/core/course/records';
import { newDesign } from '@/core/plans/edit';
import { activities, enrolments, planCourses, plans as planTable, scores } from '@/data/schema';
import { revise } from '@/data/queries/revision';
import { setDatabase } from '@/server/base/database';
import { evaluateNow } from '@/server/derive/evaluation';
import { importFiles } from '@/server/intake/intake';
import { bringPlans } from '@/server/plans/bring';
import { saveDesign, switchDesign } from '@/server/plans/designs';
import { benchCourse, NOW } from './course';
import { schedule, type PlanToSchedule } from '@/core/plans/schedule';
import { bound, median, medianTime, ms, timed } from './measure';

const PLANS = 500;
const STEPS = 20;
const RUNS = 5;
const FROM = '2026-11-25';

/** Plans whose steps rest on others, with days off and dues; the same in every run. */
function plans(): PlanToSchedule[] {
  let state = 7;
  const next = (most: number) => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) % most;
  return Array.from({ length: PLANS }, () => ({
    from: FROM,
    minutesPerDay: 20 + next(41),
    daysOff: Array.from({ length: 8 }, (_, week) => addDays(FROM, 7 * week + next(7))),
    steps: Array.from({ length: STEPS }, (_, i) => ({
      id: `s${i}`,
      minutes: 5 + next(40),
      after: i === 0 || next(2) === 0 ? [] : [`s${next(i)}`],
      pinned: null,
      due: next(3) === 0 ? addDays(FROM, next(30)) : null,
      priority: next(3),
    })),
  }));
}

/** Scheduling the plans of a large class, handing out the bands of its quiz, and following one result. */
export async function benchPlans(): Promise<void> {
  console.log(`${PLANS} plans of ${STEPS} steps`);
  const all = plans();
  const time = await medianTime(RUNS, () => all.map((p) => schedule(p)));
  bound('scheduling them', time / 1000, 1, 'at most', 'seconds');

  await benchHandingOut();
}

/** The bands of a quiz of a large class, and one changed score among them. */
async function benchHandingOut(): Promise<void> {
  process.env.LANTERN_NOW = NOW;
  const { db, courseId, userId, upload, close } = await benchCourse({
    students: PLANS,
    copies: 1,
    events: 50_000,
  });
  setDatabase(db);
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), Date.parse(NOW));
  await evaluateNow(db, courseId);
  const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
  const [quiz] = await db.orm
    .select()
    .from(activities)
    .where(and(eq(activities.courseId, courseId), eq(activities.externalId, 'quiz-streams')));
  const blank = newDesign('After the quiz', quiz!.id);
  const steps = Array.from({ length: 5 }, (_, i) => ({
    id: `step-${i}`,
    kind: 'text' as const,
    activityId: null,
    outcomeId: null,
    title: `Step ${i}`,
    minutes: 20,
    set: 'a' as const,
    lesson: null,
  }));
  const branch = { ...blank.branch!, attempt: 'best' as const };
  const id = await saveDesign(viewer, 'B', null, {
    ...blank,
    branch: { ...branch, lanes: branch.lanes.map((lane) => ({ ...lane, steps })) },
  });
  await switchDesign(viewer, 'B', id, 'on');
  const handing = await timed(() => bringPlans(db, courseId));
  const made = await db.orm.select({ id: planTable.id }).from(planTable);
  console.log(`${made.length} plans handed out`);
  bound('handing out the bands of a quiz', handing / 1000, 3, 'at most', 'seconds');

  const [one] = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .innerJoin(scores, and(eq(scores.enrolmentId, enrolments.id), eq(scores.activityId, quiz!.id)))
    .where(eq(enrolments.courseId, courseId));
  const times: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    await db.orm
      .update(scores)
      .set({ points: i % 2 === 0 ? 1 : 9.5 })
      .where(and(eq(scores.enrolmentId, one!.id), eq(scores.activityId, quiz!.id)));
    await db.transaction((tx) => revise(tx, courseId, [one!.id]));
    times.push(await timed(() => bringPlans(db, courseId)));
  }
  await db.orm.update(planCourses).set({ designs: sql`${planCourses.designs} + 1` });
  const everybody = await timed(() => bringPlans(db, courseId));
  console.log(`one result ${ms(median(times))}, everybody looked at ${ms(everybody)}`);
  bound('one result beside everybody', median(times) / everybody, 0.5, 'at most');
  await close();
}
