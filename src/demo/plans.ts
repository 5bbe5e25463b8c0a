import { and, asc, eq, sql } from 'drizzle-orm';
import { addDays, instantOf, localDate } from '@/core/calendar/zone';
import type { DesignStep, PlanDesign, StepGroup } from '@/core/plans/design';
import { DAY_MS, type Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { loadCourseModel } from '@/data/queries/courseModel';
import { enrolments, planCourses, planDesigns, plans, planSteps, scores, studyTimes } from '@/data/schema';
import { grade } from '@/server/act/grade';
import type { Viewer } from '@/server/access/viewer';
import { evaluateNow } from '@/server/derive/evaluation';
import { bringPlans } from '@/server/plans/bring';
import { saveDesign, switchDesign } from '@/server/plans/designs';

/** Days ago on which the first design was switched on. */
const SINCE_DAYS = 2;
/** The quiz that decides, and what the student who is regraded has of its ten points afterwards. */
const QUIZ = { decides: 'quiz-streams', next: 'quiz-lights', regraded: 7.5 } as const;

/**
 * Two plan designs by the score of a quiz: one that has been on for a week, with students in each of its bands, one whose
 * days are too short for it and one whose score was changed since; and one that waits for a word to hand out.
 */
export async function seedPlans(
  db: Database,
  { courseId, code, viewer, now }: { courseId: number; code: string; viewer: Viewer; now: Instant },
): Promise<void> {
  const { orm } = db;
  await evaluateNow(db, courseId, { at: now });
  const course = await loadCourseModel(db, courseId);
  const { zone } = course.row;
  const activity = (externalId: string) => course.activities.find((a) => a.externalId === externalId)!;
  const outcome = (externalId: string) => course.outcomes.find((o) => o.externalId === externalId)!;
  const of = (id: string): Omit<DesignStep, 'id'> => {
    const { id: activityId, title, minutes } = activity(id);
    return { ...text(title, minutes ?? 20), kind: 'activity', activityId };
  };
  const practice = (id: string): Omit<DesignStep, 'id'> => ({
    ...text(`Practice: ${outcome(id).title}`, 25),
    kind: 'practice',
    outcomeId: outcome(id).id,
  });
  const talk = { ...text('Ten minutes with Ines', 10), kind: 'talk' as const };
  const again = (id: string): Omit<DesignStep, 'id'> => ({
    ...of(id),
    kind: 'attempt',
    title: `Another attempt at ${activity(id).title}`,
  });

  const streams: PlanDesign = {
    title: 'After the tidal streams quiz',
    purpose: 'A stream of two knots sets you four miles off in two hours.',
    preCheckId: null,
    sections: [],
    handOut: 'by itself',
    branch: {
      quizId: activity(QUIZ.decides).id,
      attempt: 'first',
      marks: [65, 85],
      lanes: [
        lane('low', of('film-streams'), practice('streams'), of('quiz-buoys'), talk, again(QUIZ.decides)),
        lane('middle', of('page-streams'), practice('streams'), of('chart-6')),
        {
          ...lane(
            'top',
            text('Help a pair with their streams', 30),
            text('A cross-tide passage, harder', 40),
            of('page-passage'),
          ),
          rule: { kind: 'any', n: 1 },
          order: 'free',
        },
      ],
    },
  };
  const lesson = {
    at: instantOf(addDays(localDate(now, zone), 6), 18 * 60, zone),
    place: 'Chart room',
  };
  const lights: PlanDesign = {
    title: 'After the lights and shapes quiz',
    purpose: 'At night a light is all you know of a ship.',
    preCheckId: null,
    sections: [
      {
        ...lane('buoys', of('page-buoys'), of('film-buoys')),
        rule: { kind: 'any', n: 1 },
        outcomeId: outcome('buoys').id,
        purpose: 'Buoys come next; one of the two is enough.',
        items: [],
      },
    ],
    handOut: 'released',
    branch: {
      quizId: activity(QUIZ.next).id,
      attempt: 'first',
      marks: [60],
      lanes: [
        lane(
          'low',
          { ...text('Lights in the dark, for the group', 45), kind: 'lesson', lesson },
          of('film-lights'),
        ),
        {
          ...lane('high', of('page-lights'), practice('lights'), { ...talk, set: 'b' }),
          rule: { kind: 'one set' },
        },
      ],
    },
  };
  const first = await saveDesign(viewer, code, null, streams);
  await switchDesign(viewer, code, first, 'on');
  const second = await saveDesign(viewer, code, null, lights);
  await switchDesign(viewer, code, second, 'on');

  const low = await lowest(db, courseId, activity(QUIZ.decides).id);
  if (low.length === 0) return;
  // A week too short for the plan: one who learns ten minutes on two days.
  await orm
    .insert(studyTimes)
    .values({ enrolmentId: low[0]!.id, minutesPerDay: 10, weekdaysOff: [1, 3, 4, 6, 7] });
  await bringPlans(db, courseId);
  await weekPasses(db, first, now);
  const moved = low.at(-1)!;
  await grade(viewer, code, [
    {
      enrolmentId: moved.id,
      activityId: activity(QUIZ.decides).id,
      seen: { points: moved.points, excused: false },
      points: QUIZ.regraded,
    },
  ]);
  await orm.update(planCourses).set({ on: null });
  await bringPlans(db, courseId);
}

const text = (title: string, minutes: number): Omit<DesignStep, 'id'> => ({
  kind: 'text',
  activityId: null,
  outcomeId: null,
  title,
  minutes,
  set: 'a',
  lesson: null,
});

const lane = (id: string, ...steps: Omit<DesignStep, 'id'>[]): StepGroup => ({
  id,
  rule: { kind: 'all' },
  order: 'fixed',
  steps: steps.map((s, i) => ({ ...s, id: `${id}-${i + 1}` })),
});

/** Who is in the lowest band of the first design after one attempt, the least first. */
async function lowest({ orm }: Database, courseId: number, activityId: number) {
  const rows = await orm
    .select({ id: scores.enrolmentId, points: scores.points })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, courseId),
        eq(enrolments.status, 'active'),
        eq(scores.activityId, activityId),
        sql`${scores.points} < 6.5 and not ${scores.excused}`,
        sql`(select count(*) from attempts a where a.enrolment_id = ${scores.enrolmentId} and a.activity_id = ${scores.activityId}) <= 1`,
      ),
    )
    .orderBy(asc(scores.points), asc(scores.enrolmentId));
  return rows;
}

/** Lets plans have been handed out a week ago, and most students have done something of theirs since. */
async function weekPasses({ orm }: Database, designId: number, now: Instant): Promise<void> {
  const ago = new Date(now - SINCE_DAYS * DAY_MS);
  await orm.update(planDesigns).set({ changedAt: ago }).where(eq(planDesigns.id, designId));
  const own = await orm
    .update(plans)
    .set({ createdAt: ago })
    .where(eq(plans.designId, designId))
    .returning({ id: plans.id });
  await orm.execute(sql`update ${planSteps} set on_day = on_day - ${SINCE_DAYS}::int
    where plan_id in (select id from ${plans} where design_id = ${designId})`);
  for (const [i, { id }] of own.entries()) {
    const steps = await orm
      .select()
      .from(planSteps)
      .where(eq(planSteps.planId, id))
      .orderBy(asc(planSteps.position));
    // Some have not begun, most have done one or two, a few are through.
    for (const [at, step] of steps.slice(0, DONE[i % DONE.length]).entries())
      await orm
        .update(planSteps)
        .set({
          doneAt: new Date(
            ago.getTime() + Math.min(SINCE_DAYS - 0.2, 0.5 * (at + 1) + 0.5 * (i % 2)) * DAY_MS,
          ),
        })
        .where(eq(planSteps.id, step.id));
  }
}

/** Steps that students have done, in turn. */
const DONE = [2, 1, 3, 1, 0, 2, 1, 5] as const;
