import { desc, eq, sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import type { PlanDesign } from '@/core/plans/design';
import { designStep, lane } from '../../../tests/support/plans';
import { groupBy } from '@/core/groupBy';
import { isOpen } from '@/core/plans/plan';
import { REVIEW_PART } from '@/core/plans/reviews';
import { importFiles } from '../intake/intake';
import { activities, courses, planCourses, planDesigns, plans, planSteps, scores } from '@/data/schema';
import { excuse, grade } from '../act/grade';
import { tickStep } from '../act/plans';
import { notToday, saveStudyTimes } from '../act/studyTimes';
import { studentHome } from '../look/student';
import { workOff } from '../work';
import { bringPlans } from './bring';
import { releaseDesign, removeDesign, saveDesign, switchDesign, tryDesign } from './designs';
import { designLines, designView } from './designView';
import { keepStepDay } from './pins';

const small = withSmallCourse();
const me = () => small.course.instructor;
/** Sets the clock to so many days after the course stands. */
const clock = (days: number) =>
  void (process.env.LANTERN_NOW = new Date(Date.parse(NOW) + days * 86_400_000).toISOString());
const db = () => small.test.db;
const orm = () => db().orm;

const idOf = async (externalId: string) =>
  (await orm().select().from(activities).where(eq(activities.externalId, externalId)))[0]!.id;

async function design(over: Partial<PlanDesign> = {}): Promise<PlanDesign> {
  const film = designStep('film', {
    kind: 'activity',
    activityId: await idOf('r2'),
    title: 'Heights on film',
    minutes: 18,
  });
  return {
    title: 'After the tides quiz',
    purpose: 'So that the next leg is planned with the tide',
    preCheckId: null,
    sections: [],
    branch: {
      quizId: await idOf('q1'),
      attempt: 'best',
      marks: [50, 80],
      lanes: [
        lane('low', film, designStep('talk', { kind: 'talk' })),
        lane('middle', film, designStep('chart')),
        lane('top', designStep('help')),
      ],
    },
    handOut: 'by itself',
    ...over,
  };
}

async function switchedOn(over: Partial<PlanDesign> = {}): Promise<number> {
  const id = await saveDesign(me(), 'NAV', null, await design(over));
  await switchDesign(me(), 'NAV', id, 'on');
  await workOff(db());
  return id;
}

/** The steps of the plan that a student has of a design. */
async function stepsOf(designId: number, student: string) {
  const { enrolmentId } = await small.course.student(student);
  return orm()
    .select({
      id: planSteps.id,
      title: planSteps.title,
      on: planSteps.on,
      done: planSteps.doneAt,
      said: plans.said,
    })
    .from(planSteps)
    .innerJoin(plans, eq(plans.id, planSteps.planId))
    .where(sql`${plans.designId} = ${designId} and ${plans.enrolmentId} = ${enrolmentId}`)
    .orderBy(planSteps.position);
}
const titles = async (designId: number, student: string) =>
  (await stepsOf(designId, student)).map((s) => s.title);

/** Changes the grade of a student in the tides quiz, and lets everything follow. */
async function regrade(student: string, points: number) {
  const { enrolmentId } = await small.course.student(student);
  const activityId = await idOf('q1');
  const [row] = await orm()
    .select()
    .from(scores)
    .where(sql`${scores.enrolmentId} = ${enrolmentId} and ${scores.activityId} = ${activityId}`);
  const seen = { points: row?.points ?? null, excused: row?.excused ?? false };
  const done = await grade(me(), 'NAV', [{ enrolmentId, activityId, seen, points }]);
  expect(done.changed).toBe(1);
  await workOff(db());
}

afterEach(async () => {
  clock(0);
  await orm().delete(plans);
  await orm().delete(planDesigns);
  await orm().delete(planCourses);
});

describe('a plan design', () => {
  it('gives each their band by themselves, once; who has no score waits', async () => {
    const id = await switchedOn();
    expect(await titles(id, 's1')).toEqual(['help']);
    expect(await titles(id, 's4')).toEqual(['Heights on film', 'chart']);
    expect(await titles(id, 's3')).toEqual([]);
    await bringPlans(db(), small.course.courseId);
    await bringPlans(db(), small.course.courseId);
    expect(await orm().select().from(plans)).toHaveLength(2);
    const view = await designView(me(), 'NAV', id);
    expect(view).toMatchObject({ handedOut: 2, waiting: 2, excused: 0, fault: null, gone: [] });
    expect(view.students.map((s) => [s.percent, s.goes])).toEqual([
      [90, 'not begun'],
      [70, 'not begun'],
    ]);
  });

  it('moves whose score has changed: what was done stays, what was not begun changes, and it says so', async () => {
    const id = await switchedOn();
    const { viewer } = await small.course.student('s4');
    const [film] = await stepsOf(id, 's4');
    await tickStep(viewer, film!.id, true);
    await regrade('s4', 4);
    const after = await stepsOf(id, 's4');
    expect(after.map((s) => [s.title, s.done != null])).toEqual([
      ['Heights on film', true],
      ['talk', false],
    ]);
    expect(after[0]!.id).toBe(film!.id);
    expect(after[0]!.said).toMatch(/^1 step is new, 1 step was removed.*, since your score is now 40 %/);
    // Three times in a row, and back: the same steps, and the film still done.
    for (const points of [9, 3, 7]) await regrade('s4', points);
    expect(await titles(id, 's4')).toEqual(['Heights on film', 'chart']);
    expect((await stepsOf(id, 's4'))[0]!.done).not.toBeNull();
    expect(await orm().select().from(plans).where(eq(plans.designId, id))).toHaveLength(2);
    await regrade('s4', 7.5);
    await regrade('s4', 7);
  });

  it('looks only at the student whose result came', async () => {
    const id = await switchedOn();
    const before = await stepsOf(id, 's1');
    await orm().update(planSteps).set({ title: 'changed by hand' }).where(eq(planSteps.id, before[0]!.id));
    await regrade('s4', 9.5);
    expect(await titles(id, 's1')).toEqual(['changed by hand']);
    expect(await titles(id, 's4')).toEqual(['help']);
    await regrade('s4', 7);
  });

  it('waits for a word where it is to be released, and gives nothing to who is excused', async () => {
    const { enrolmentId } = await small.course.student('s4');
    const cell = [{ enrolmentId, activityId: await idOf('q1'), seen: { points: 7, excused: false } }];
    await excuse(me(), 'NAV', cell, true);
    const id = await switchedOn({ handOut: 'released' });
    expect(await titles(id, 's1')).toEqual([]);
    await releaseDesign(me(), 'NAV', id);
    await workOff(db());
    expect(await titles(id, 's1')).toEqual(['help']);
    expect(await titles(id, 's4')).toEqual([]);
    expect((await designView(me(), 'NAV', id)).excused).toBe(1);
    await excuse(me(), 'NAV', [{ ...cell[0]!, seen: { points: 7, excused: true } }], false);
    await workOff(db());
    expect(await titles(id, 's4')).toEqual(['Heights on film', 'chart']);
  });

  it('refuses what cannot be: a lane without a step, an activity of another course, a stranger', async () => {
    const whole = await design();
    const bare = {
      ...whole,
      branch: { ...whole.branch!, lanes: [lane('low'), ...whole.branch!.lanes.slice(1)] },
    };
    const id = await saveDesign(me(), 'NAV', null, bare);
    await expect(switchDesign(me(), 'NAV', id, 'on')).rejects.toThrow('The band “under 50 %” has no step.');
    const foreign = designStep('foreign', { kind: 'activity', activityId: 99_999 });
    await expect(
      saveDesign(me(), 'NAV', null, {
        ...whole,
        branch: null,
        sections: [{ ...lane('s', foreign), outcomeId: null, purpose: '', items: [] }],
      }),
    ).rejects.toThrow('not in the course');
    await expect(saveDesign(small.course.stranger, 'NAV', null, whole)).rejects.toThrow();
    await expect(designView(small.course.stranger, 'NAV', id)).rejects.toThrow();
    expect((await designLines(me(), 'NAV')).map((d) => [d.state, d.quiz, d.handedOut])).toEqual([
      ['draft', 'Tides quiz', 0],
    ]);
  });

  it('leaves a step out whose activity is gone, and plans stay when it is removed', async () => {
    const id = await switchedOn();
    const extra = await orm()
      .insert(activities)
      .values({
        courseId: small.course.courseId,
        externalId: 'x',
        title: 'Extra',
        kind: 'page',
        position: 99,
      })
      .returning();
    await orm()
      .update(courses)
      .set({ setupRev: sql`${courses.setupRev} + 1` });
    const whole = await design();
    const top = lane(
      'top',
      designStep('help'),
      designStep('extra', { kind: 'activity', activityId: extra[0]!.id }),
    );
    await saveDesign(me(), 'NAV', id, {
      ...whole,
      branch: { ...whole.branch!, lanes: [...whole.branch!.lanes.slice(0, 2), top] },
    });
    await orm().delete(activities).where(eq(activities.id, extra[0]!.id));
    await orm()
      .update(courses)
      .set({ setupRev: sql`${courses.setupRev} + 1` });
    await workOff(db());
    expect(await titles(id, 's1')).toEqual(['help']);
    expect((await designView(me(), 'NAV', id)).gone).toEqual([
      'The step “extra” is of something that is not in the course.',
    ]);
    await removeDesign(me(), 'NAV', id);
    expect(await orm().select().from(plans)).toHaveLength(2);
  });

  it('is seen as a student by trying a score', async () => {
    const whole = await design();
    const at = async (percent: number | null) =>
      (await tryDesign(me(), 'NAV', whole, { percent, mark: null }))?.steps.map((s) => `${s.title} ${s.on}`);
    expect(await at(49.9)).toEqual(['Heights on film 2026-10-29', 'talk 2026-10-30']);
    expect(await at(80)).toEqual(['help 2026-10-29']);
    expect(await at(null)).toBeUndefined();
    expect(await orm().select().from(plans)).toHaveLength(0);
  });
});

describe('a plan that keeps itself up to date', () => {
  it('is made anew the day after one was missed, says so, and remembers the day that was missed', async () => {
    const id = await switchedOn();
    const { viewer } = await small.course.student('s4');
    const before = await stepsOf(id, 's4');
    clock(3);
    await bringPlans(db(), small.course.courseId);
    const after = await stepsOf(id, 's4');
    expect(after[0]!.on).toBe('2026-10-31');
    expect(after[0]!.said).toMatch(/moved, since .* not done on (its day|their days)/);
    const [row] = await orm().select().from(planSteps).where(eq(planSteps.id, before[0]!.id));
    expect(row!.wasOn).toBe(before[0]!.on);
    // The clock set back: nothing is done until it has caught up.
    clock(0);
    await bringPlans(db(), small.course.courseId);
    expect((await stepsOf(id, 's4'))[0]!.on).toBe('2026-10-31');
    expect((await studentHome(viewer)).courses[0]!.plans[0]!.steps).toHaveLength(2);
  });

  it('comes earlier where something was done before its day; what is pinned stays', async () => {
    const { viewer } = await small.course.student('s4');
    await saveStudyTimes(viewer, 'NAV', { minutesPerDay: 20, weekdaysOff: [7] });
    const id = await switchedOn();
    const [film, chart] = await stepsOf(id, 's4');
    expect([film!.on, chart!.on]).toEqual(['2026-10-28', '2026-10-29']);
    await expect(keepStepDay(me(), 'NAV', chart!.id, '2026-11-01')).rejects.toThrow('a day off');
    await expect(keepStepDay(me(), 'NAV', chart!.id, '2026-10-20')).rejects.toThrow('is over');
    await keepStepDay(me(), 'NAV', chart!.id, '2026-11-03');
    clock(1);
    await bringPlans(db(), small.course.courseId);
    const moved = await stepsOf(id, 's4');
    expect(moved.map((s) => s.on)).toEqual(['2026-10-29', '2026-11-03']);
    expect(await keepStepDay(me(), 'NAV', chart!.id, null)).toMatch(/may move again/);
  });

  it('marks its sections by a pre-check once it is taken: what is known is open and not expected', async () => {
    const answers = [
      'student_id,activity_id,item_id,answer,score',
      's3,q2,i1,A,1',
      's3,q2,i2,A,1',
      's3,q2,i3,A,0',
    ].join('\n');
    await importFiles(
      db(),
      small.course.courseId,
      me().userId,
      [file('responses.csv', answers)],
      Date.parse(NOW),
    );
    const section = (id: string, items: string[]) => ({
      ...lane(id, designStep(`${id}-first`), designStep(`${id}-second`)),
      outcomeId: null,
      purpose: `For ${id}`,
      items,
    });
    const id = await switchedOn({
      preCheckId: await idOf('q2'),
      sections: [section('known', ['i1', 'i2']), section('skim', ['i1', 'i3']), section('study', ['i3'])],
      branch: null,
    });
    expect(await titles(id, 's1')).toEqual([]);
    const { viewer } = await small.course.student('s3');
    const [plan] = (await studentHome(viewer)).courses[0]!.plans;
    expect(plan!.parts.map((p) => [p.mark, p.purpose])).toEqual([
      ['known', 'For known'],
      ['to skim', 'For skim'],
      ['to study', 'For study'],
    ]);
    const expected = plan!.steps.filter((s) => isOpen(s) && s.part !== REVIEW_PART).map((s) => s.title);
    expect(expected.toSorted()).toEqual(['skim-first', 'study-first', 'study-second']);
  });

  it('brings back what is likely forgotten, a few minutes a day, until it is answered again', async () => {
    const when = (days: number) => new Date(Date.parse(NOW) - days * 86_400_000).toISOString();
    const answers = (day: number, attempt: number) =>
      [
        'student_id,activity_id,item_id,answer,score,attempt,at',
        `s4,q1,i1,A,1,${attempt},${when(day)}`,
        `s4,q1,i2,A,1,${attempt},${when(day)}`,
      ].join('\n');
    const { courseId } = small.course;
    await importFiles(db(), courseId, me().userId, [file('responses.csv', answers(9, 1))], Date.parse(NOW));
    const id = await switchedOn();
    await bringPlans(db(), courseId);
    await orm().update(planCourses).set({ on: null });
    await bringPlans(db(), courseId);
    const reviews = async () => (await stepsOf(id, 's4')).filter((s) => s.title.startsWith('Review: '));
    expect((await reviews()).map((s) => [s.title, s.done])).toEqual([['Review: Tidal heights', null]]);
    await importFiles(db(), courseId, me().userId, [file('responses.csv', answers(0, 2))], Date.parse(NOW));
    await orm().update(planCourses).set({ on: null });
    await bringPlans(db(), courseId);
    expect((await reviews()).map((s) => s.done != null)).toEqual([true]);
  });

  it('shares the minutes of a day between the plans of a student, and names a review in one of them', async () => {
    const { viewer } = await small.course.student('s4');
    await saveStudyTimes(viewer, 'NAV', { minutesPerDay: 40, weekdaysOff: [] });
    const first = await switchedOn();
    const second = await switchedOn();
    const both = async () => [...(await stepsOf(first, 's4')), ...(await stepsOf(second, 's4'))];
    const minutesOn = async () => {
      const plan = (await studentHome(viewer)).courses[0]!.plans.flatMap((p) => p.steps.filter(isOpen));
      return [...groupBy(plan, (s) => s.on)].map(([, list]) => list.reduce((sum, s) => sum + s.minutes, 0));
    };
    expect(await both()).not.toHaveLength(0);
    for (const sum of await minutesOn()) expect(sum).toBeLessThanOrEqual(40);
    clock(3);
    await bringPlans(db(), small.course.courseId);
    for (const sum of await minutesOn()) expect(sum).toBeLessThanOrEqual(40);
    await notToday(viewer, 'NAV');
    for (const sum of await minutesOn()) expect(sum).toBeLessThanOrEqual(40);
    const reviews = (await both()).filter((s) => s.title.startsWith('Review: ')).map((s) => s.title);
    expect(new Set(reviews).size).toBe(reviews.length);
  });

  it('keeps a lesson on its day, with its place', async () => {
    const at = Date.parse('2026-11-04T18:00:00Z');
    const lesson = designStep('lesson', { kind: 'lesson', lesson: { at, place: 'Chart room' } });
    const whole = await design();
    const id = await switchedOn({
      branch: { ...whole.branch!, lanes: [lane('low', lesson), lane('middle', lesson), lane('top', lesson)] },
    });
    expect((await stepsOf(id, 's4'))[0]!.on).toBe('2026-11-04');
    const [latest] = await orm().select().from(planSteps).orderBy(desc(planSteps.id));
    expect(latest).toMatchObject({ place: 'Chart room', lessonAt: new Date(at) });
  });
});
