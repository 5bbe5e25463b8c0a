import { localDate } from '@/core/calendar/zone';
import { groupBy } from '@/core/groupBy';
import { changeOf, missedOrEarly, unchanged, type PlanChanged } from '@/core/plans/change';
import { wantedAgain, wantedFrom } from '@/core/plans/handOut';
import { isOpen, type PlanView } from '@/core/plans/plan';
import { busyOf } from '@/core/plans/replan';
import { outcomeRecalls, type OutcomeRecall } from '@/core/plans/reviews';
import { withReviews } from '@/core/plans/withReviews';
import type { Access, Database } from '@/data/database';
import { activeStudents } from '@/data/queries/activeStudents';
import { designsOf, outcomeAnswers, planCourseOf, type DesignRow } from '@/data/queries/plans';
import { changedSince } from '@/data/queries/revision';
import { planCourses } from '@/data/schema';
import { ownerOf, runningCourse } from '../access/owner';
import { now } from '../base/clock';
import { unwatched, type Progress } from '../jobs/progress';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { tickedPlans } from '../snapshot/tickedPlans';
import { handOutFacts } from './facts';
import { inheritGiven } from './inherit';
import { planSettings } from './setting';
import { storeChanges, storeNew, type NewPlan, type Placing } from './store';

/**
 * Brings the plans of a course up to date: hands out what designs give, changes the band of whose score has changed, and
 * makes plans anew where a day was missed, something was done before its day, or a review has fallen due. Only students of
 * whom something is new are looked at, and everybody once a day or when a design has changed. What is found is written in
 * one transaction with how far was looked: done twice, it is done once. While the clock is set back nothing is done.
 */
export async function bringPlans(
  db: Database,
  courseId: number,
  progress: Progress = unwatched,
): Promise<void> {
  const course = await runningCourse(db, courseId);
  if (!course) return;
  await inheritGiven(db, course);
  const snapshot = await snapshotOf(course);
  const mark = await planCourseOf(db, courseId);
  const today = localDate(now(), course.zone);
  if (mark?.on != null && mark.on > today) return;
  const designs = await liveDesigns(db, courseId);
  const all = mark?.on !== today || mark.designs !== mark.designsSeen;
  const active = await activeStudents(db, courseId);
  const changed = all
    ? active
    : (await changedSince(db, courseId, mark.rev)).filter((id) => active.includes(id));
  await progress('Study plans', 0, changed.length);
  const store = changed.length > 0 ? await findChanges(db, snapshot, designs, changed) : null;
  await db.transaction(async (tx) => {
    await store?.(tx);
    const set = { rev: course.rev, on: today, designsSeen: mark?.designs ?? 0 };
    await tx.orm
      .insert(planCourses)
      .values({ courseId, ...set })
      .onConflictDoUpdate({ target: planCourses.courseId, set });
  });
}

/** The designs that are on, of whoever still teaches the course. */
async function liveDesigns(db: Database, courseId: number): Promise<DesignRow[]> {
  const live: DesignRow[] = [];
  for (const row of await designsOf(db, courseId))
    if (row.state === 'on' && (await ownerOf(db, row.userId, courseId))) live.push(row);
  return live;
}

/** What is to be written for the plans of some students to be up to date. */
async function findChanges(
  db: Database,
  snapshot: Snapshot,
  designs: readonly DesignRow[],
  students: readonly number[],
): Promise<(tx: Access) => Promise<void>> {
  const known = groupBy(await tickedPlans(snapshot, students), (p) => p.enrolmentId);
  const fresh: NewPlan[] = [];
  const changes = new Map<number, PlanChanged>();
  for (const row of designs) {
    const factsOf = await handOutFacts(db, snapshot, row.design, students);
    const mayHandOut = row.design.handOut === 'by itself' || row.releasedAt != null;
    for (const student of students) {
      const facts = factsOf(student);
      const plan = known.get(student)?.find((p) => p.designId === row.id);
      const wanted = plan ? wantedAgain(row.design, plan, facts) : wantedFrom(row.design, facts);
      if (!plan) {
        if (wanted && mayHandOut) fresh.push({ design: row, student, wanted });
        continue;
      }
      const change = changeOf(plan, wanted, facts.score);
      if (change) changes.set(plan.id, change);
    }
  }
  const settings = await planSettings(db, snapshot, students);
  const { term, outcomes } = await snapshot.model();
  const today = localDate(now(), term.zone);
  const reviews = await reviewsDue(db, known, fresh);
  const titles = new Map(outcomes.map((o) => [o.id, o.title]));
  const latest = new Map(
    [...known].map(([student, own]) => [
      student,
      own.find((p) => p.designId != null && p.steps.some(isOpen))?.id,
    ]),
  );
  for (const plan of [...known.values()].flat()) {
    const moved = missedOrEarly(plan, today, (at) => localDate(at, term.zone));
    const before = changes.get(plan.id) ?? { ...unchanged(plan), why: moved };
    const setting = settings(plan.enrolmentId, today);
    const next = withReviews(
      before,
      reviews.get(plan.enrolmentId) ?? [],
      titles,
      // A third of a day is one review: those of a student come into one plan, the latest.
      latest.get(plan.enrolmentId) === plan.id ? setting.times.minutesPerDay : 0,
      now(),
    );
    if (next.why) changes.set(plan.id, next);
    else changes.delete(plan.id);
  }
  const stay = (own: readonly PlanView[]) => own.filter((p) => !changes.has(p.id));
  const placing: Placing = {
    settingOf: (student) => settings(student, today),
    busy: new Map([...known].map(([student, own]) => [student, busyOf(stay(own))])),
  };
  return async (tx) => {
    await storeChanges(tx, [...changes.values()], placing);
    await storeNew(tx, fresh, placing);
  };
}

/** What students would do well to go over, by what they last knew of it: of those who have a plan of a design. */
async function reviewsDue(
  db: Database,
  known: ReadonlyMap<number, readonly PlanView[]>,
  fresh: readonly NewPlan[],
): Promise<Map<number, OutcomeRecall[]>> {
  const students = new Set(fresh.map((f) => f.student));
  for (const [student, own] of known) if (own.some((p) => p.designId != null)) students.add(student);
  const at = now();
  return new Map(
    [...(await outcomeAnswers(db, [...students]))].map(([student, answers]) => [
      student,
      outcomeRecalls(answers, at),
    ]),
  );
}
