import { isResource } from '@/core/course/kinds';
import { secondsByActivity } from '@/core/activity/workDays';
import { isClosed, isReturned, isSubmitted } from '@/core/gradebook/status';
import { decidingScore, type DecidingScore } from '@/core/plans/attemptScore';
import type { PlanDesign } from '@/core/plans/design';
import type { HandOutFacts, StepActivity } from '@/core/plans/handOut';
import { sectionMark } from '@/core/plans/preCheck';
import { USUAL_MINUTES, weakestOutcomes } from '@/core/plans/propose';
import { IN_FULL_SHARE } from '@/core/plans/ticks';
import type { Database } from '@/data/database';
import { attemptPoints, firstScores } from '@/data/queries/plans';
import { now } from '../base/clock';
import type { Snapshot } from '../snapshot/snapshot';

/** Pages and films that are named to go over before a further attempt. */
const GO_OVER = 3;

/** What decides what each of some students gets from a design. */
export async function handOutFacts(
  db: Database,
  snapshot: Snapshot,
  design: PlanDesign,
  students: readonly number[],
): Promise<(student: number) => HandOutFacts> {
  const scoreOf = await decidingScores(db, snapshot, design, students);
  const checks = design.preCheckId == null ? null : await firstScores(db, design.preCheckId, students);
  const material = await studyMaterial(snapshot);
  const { outcomes } = await snapshot.model();
  const titles = new Map(outcomes.map((o) => [o.id, o.title]));
  return (student) => {
    const answered = checks?.get(student) ?? new Map<string, number>();
    return {
      score: design.branch ? scoreOf(student) : null,
      preCheckOpen: checks != null && answered.size === 0,
      mark: (id) => {
        const section = design.sections.find((s) => s.id === id);
        return checks && section ? sectionMark(section.items, answered) : null;
      },
      outcomeTitle: (id) => titles.get(id) ?? null,
      goOver: design.branch ? material.goOver(student, design.branch.quizId) : [],
      ...material.of(student),
    };
  };
}

/** The score of each student by which a design gives a band; `waits` for everybody where it has none. */
export async function decidingScores(
  db: Database,
  snapshot: Snapshot,
  { branch }: Pick<PlanDesign, 'branch'>,
  students: readonly number[],
): Promise<(student: number) => DecidingScore> {
  if (!branch) return () => 'waits';
  const model = await snapshot.model();
  const scores = await snapshot.scores();
  const quiz = model.activities.find((a) => a.id === branch.quizId);
  const attempts = await attemptPoints(db, [branch.quizId], students);
  const at = now();
  return (student) => {
    const score = scores.get(student)?.get(String(branch.quizId));
    return decidingScore(
      {
        excused: score?.excused === true,
        returned: isReturned(score, at),
        points: score?.points ?? null,
        attempts: attempts.get(student)?.get(branch.quizId) ?? [],
      },
      branch.attempt,
      quiz?.points ?? null,
    );
  };
}

/** Activities that steps are made from, and what of them each student has not done. */
export async function studyMaterial(snapshot: Snapshot) {
  const model = await snapshot.model();
  const scores = await snapshot.scores();
  const workDays = await snapshot.workDays();
  const learned = await snapshot.masteries();
  const at = now();
  const stepOf = new Map<number, StepActivity>(
    model.activities.map((a) => [a.id, { id: a.id, title: a.title, minutes: a.minutes ?? USUAL_MINUTES }]),
  );
  const about = (id: number, outcome: number | string) =>
    (model.covers.get(String(id)) ?? []).includes(String(outcome));
  const practice = model.activities.filter((a) => a.kind === 'practice' || a.kind === 'quiz');
  const resources = model.activities.filter((a) => isResource(a.kind));
  const isDone = (student: number, id: number) => {
    const score = scores.get(student)?.get(String(id));
    return isSubmitted(score, at) || score?.excused === true;
  };
  const inFull = (student: number) => {
    const seconds = secondsByActivity(workDays.get(student));
    return (id: number) => (seconds.get(id) ?? 0) >= IN_FULL_SHARE * stepOf.get(id)!.minutes * 60;
  };
  return {
    of: (student: number): Pick<HandOutFacts, 'activity' | 'practice'> => ({
      activity: (id) => stepOf.get(id) ?? null,
      practice: (outcome) => {
        const open = practice
          .filter((a) => about(a.id, outcome) && !isDone(student, a.id))
          .filter(
            (a) =>
              !isClosed(
                { closes: a.closesAt?.getTime() ?? null },
                scores.get(student)?.get(String(a.id)),
                at,
              ),
          )
          .filter((a) => (a.opensAt?.getTime() ?? -Infinity) <= at)
          .sort((a, b) => Number(b.kind === 'practice') - Number(a.kind === 'practice'));
        return open[0] ? stepOf.get(open[0].id)! : null;
      },
    }),
    /** What there is to go over for a quiz, whoever it is. */
    goOverAll: (quizId: number): StepActivity[] =>
      resources
        .filter((r) => (model.covers.get(String(quizId)) ?? []).some((o) => about(r.id, o)))
        .slice(0, GO_OVER)
        .map((r) => stepOf.get(r.id)!),
    /** What a student has not opened in full of the outcomes of a quiz, the weakest outcome first. */
    goOver: (student: number, quizId: number): StepActivity[] => {
      const asked = (learned.get(student) ?? []).filter((m) => about(quizId, m.outcomeId));
      const opened = inFull(student);
      const found = weakestOutcomes(asked.map((m) => ({ ...m, id: String(m.outcomeId), title: '' }))).flatMap(
        (o) => resources.filter((r) => about(r.id, o.id) && !opened(r.id)).slice(0, 1),
      );
      return [...new Set(found)].slice(0, GO_OVER).map((r) => stepOf.get(r.id)!);
    },
  };
}
