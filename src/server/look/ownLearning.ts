import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { isResource } from '@/core/course/kinds';
import { dueFor, isClosed, isReturned, isSubmitted } from '@/core/gradebook/status';
import { showsKey } from '@/core/items/disclosure';
import { classByOutcome } from '@/core/outcomes/classByOutcome';
import { movers, type OwnActivity } from '@/core/outcomes/movers';
import { nextToLearn } from '@/core/outcomes/lessons';
import type { OwnCourse, OwnOutcome } from '@/core/views/student';
import type { OwnAnswerView } from '@/core/views/ownAnswers';
import type { Access } from '@/data/database';
import { recordedAnswers, itemsOf } from '@/data/queries/responses';
import { loadScores, type FullScore } from '@/data/queries/scores';
import { activities, answersNow, attempts, courses, enrolments, itemQuestions } from '@/data/schema';
import type { ActivityRow } from '@/data/queries/courseModel';
import { requireStudent, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import type { Snapshot } from '../snapshot/snapshot';
import { outcomesOf } from './brief';
import { taughtOutcomes } from './outcomes';

/** How often a student handed each activity in, by attempts on record or by the answers of each, whichever tells of more. */
async function attemptsMade(
  { orm }: Access,
  enrolmentId: number,
): Promise<{ readonly made: ReadonlyMap<number, number>; readonly answered: ReadonlySet<number> }> {
  const rows = await orm
    .select({ activity: attempts.activityId, n: sql`count(*)`.mapWith(Number) })
    .from(attempts)
    .where(eq(attempts.enrolmentId, enrolmentId))
    .groupBy(attempts.activityId);
  const said = await orm
    .select({ activity: answersNow.activityId, n: sql`max(${answersNow.attempt})`.mapWith(Number) })
    .from(answersNow)
    .where(and(eq(answersNow.enrolmentId, enrolmentId), isNotNull(answersNow.activityId)))
    .groupBy(answersNow.activityId);
  const made = new Map(rows.map((r) => [r.activity, r.n]));
  for (const { activity, n } of said) made.set(activity!, Math.max(n, made.get(activity!) ?? 0));
  return { made, answered: new Set(said.map((r) => r.activity!)) };
}

const allowedFor = (activity: ActivityRow, score: FullScore | undefined): number | null =>
  activity.attemptsAllowed == null ? null : activity.attemptsAllowed + (score?.extraAttempts ?? 0);

/** Whether a student may see the key of an activity. */
function mayLook(activity: ActivityRow, score: FullScore | undefined, made: number): boolean {
  const at = now();
  return showsKey(
    {
      due: dueFor({ due: activity.dueAt?.getTime() ?? null }, score),
      closes:
        activity.closesAt == null ? null : Math.max(activity.closesAt.getTime(), score?.due ?? -Infinity),
      allowed: allowedFor(activity, score),
      made,
      held: score?.points != null && !isReturned(score, at),
    },
    at,
  );
}

/** A student's outcomes with what would move them, one thing to do next, and the quizzes whose keys they may see. */
export async function ownLearning(
  snapshot: Snapshot,
  enrolmentId: number,
): Promise<Pick<OwnCourse, 'next' | 'outcomes' | 'disclosed'>> {
  const course = await snapshot.model();
  const db = await database();
  const own = (await snapshot.scores()).get(enrolmentId) ?? new Map<string, FullScore>();
  const opened = (await snapshot.opened()).get(enrolmentId) ?? new Set<number>();
  const { made, answered } = await attemptsMade(db, enrolmentId);
  const at = now();
  const stands = course.activities.map((a): OwnActivity => {
    const score = own.get(String(a.id));
    const tries = made.get(a.id) ?? (score?.submitted == null ? 0 : 1);
    const allowed = allowedFor(a, score);
    const isOpen =
      (score?.opens ?? a.opensAt?.getTime() ?? -Infinity) <= at &&
      !isClosed({ closes: a.closesAt?.getTime() ?? null }, score, at);
    return {
      id: a.id,
      title: a.title,
      kind: a.kind,
      due: dueFor({ due: a.dueAt?.getTime() ?? null }, score),
      open: isOpen,
      done: isSubmitted(score, at) || score?.excused === true,
      opened: opened.has(a.id),
      share: isReturned(score, at) && a.points ? score!.points! / a.points : null,
      left: allowed == null ? null : Math.max(0, allowed - tries),
    };
  });
  const behind = (outcome: number) =>
    stands.filter((a) => (course.covers.get(String(a.id)) ?? []).includes(String(outcome)));
  const levels = await outcomesOf(snapshot, enrolmentId);
  const outcomes = levels.map((o): OwnOutcome => ({
    ...o,
    movers: movers(o.level, behind(o.id))
      .slice(0, 3)
      .map((m) => m.words),
    rests: behind(o.id)
      .filter((a) => !isResource(a.kind) && a.share != null)
      .map((a) => ({ id: a.id, title: a.title, words: `${Math.round(100 * a.share!)} %` })),
  }));
  const learner = {
    id: enrolmentId,
    outcomes: new Map(levels.map((o) => [o.id, { mean: o.mean, low: o.low, level: o.level, askedAt: null }])),
  };
  const taught = taughtOutcomes(course);
  const weakest = nextToLearn(learner, taught) ?? firstDeveloping(taught, learner);
  const first = outcomes.find((o) => o.id === weakest);
  return {
    next: first?.movers[0] == null ? null : `For ${first.title}: ${first.movers[0]}.`,
    outcomes,
    disclosed: course.activities
      .filter((a) => answered.has(a.id) && mayLook(a, own.get(String(a.id)), made.get(a.id) ?? 0))
      .map(({ id, title }) => ({ id, title })),
  };
}

/** The weakest outcome that is not secure yet, where none is "not yet". */
function firstDeveloping(
  taught: ReturnType<typeof taughtOutcomes>,
  learner: Parameters<typeof nextToLearn>[0],
): number | null {
  const [weakest] = classByOutcome(
    taught.filter((o) => learner.outcomes.get(o.id)?.level === 'developing'),
    [learner],
  );
  return weakest?.id ?? null;
}

/** A quiz of a course that the viewer is in, as it stands for them; refused unless they may see its key. */
export async function ownQuiz(viewer: Viewer, activityId: number) {
  const personId = requireStudent(viewer);
  const db = await database();
  const [found] = await db.orm
    .select({ activity: activities, enrolmentId: enrolments.id, courseId: courses.id })
    .from(activities)
    .innerJoin(courses, eq(courses.id, activities.courseId))
    .innerJoin(enrolments, and(eq(enrolments.courseId, courses.id), eq(enrolments.personId, personId)))
    .where(eq(activities.id, activityId));
  if (!found) throw notFound('assignment of yours');
  const { activity, enrolmentId } = found;
  const score = (await loadScores(db, found.courseId, [enrolmentId]))
    .get(enrolmentId)
    ?.get(String(activityId));
  const { made } = await attemptsMade(db, enrolmentId);
  if (!mayLook(activity, score, made.get(activityId) ?? 0))
    throw notFound('assignment of yours whose answers are open yet');
  return { db, activity, enrolmentId, answers: await recordedAnswers(db, activityId, enrolmentId) };
}

/** A student's own answers to a quiz with what is right and why, once they may see it. */
export async function ownAnswers(viewer: Viewer, activityId: number): Promise<OwnAnswerView[]> {
  const { db, enrolmentId, answers } = await ownQuiz(viewer, activityId);
  const known = new Map((await itemsOf(db, activityId)).map((i) => [i.item, i]));
  const questions = await db.orm
    .select({ item: itemQuestions.item })
    .from(itemQuestions)
    .where(and(eq(itemQuestions.enrolmentId, enrolmentId), eq(itemQuestions.activityId, activityId)));
  const asked = new Set(questions.map((q) => q.item));
  return answers
    .toSorted((a, b) => a.item.localeCompare(b.item, 'en', { numeric: true }) || a.attempt - b.attempt)
    .map((a) => {
      const item = known.get(a.item);
      const textOf = new Map(item?.options.map((o) => [o.option, o.text]));
      return {
        item: a.item,
        stem: item?.stem ?? null,
        answer: a.answer,
        answerText: textOf.get(a.answer.trim()) ?? '',
        attempt: a.attempt,
        score: a.score,
        right: (item?.keys ?? []).map((option) => ({ option, text: textOf.get(option) ?? '' })),
        explanation: item?.explanation ?? null,
        asked: asked.has(a.item),
      };
    });
}
