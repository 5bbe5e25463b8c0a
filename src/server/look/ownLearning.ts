import { and, eq, inArray, isNotNull, sql, type AnyColumn } from 'drizzle-orm';
import { weekSpan, type Term } from '@/core/calendar/term';
import { isResource } from '@/core/course/kinds';
import { dueFor, isClosed, isReturned, isSubmitted } from '@/core/gradebook/status';
import { showsKey, type QuizTaker } from '@/core/items/disclosure';
import { classByOutcome } from '@/core/outcomes/classByOutcome';
import { movers, type OwnActivity } from '@/core/outcomes/movers';
import { nextToLearn } from '@/core/outcomes/lessons';
import type { OwnCourse, OwnOutcome } from '@/core/views/student';
import type { OwnAnswerView } from '@/core/views/ownAnswers';
import type { Access } from '@/data/database';
import { activeStudents } from '@/data/queries/activeStudents';
import { recordedAnswers, itemsOf } from '@/data/queries/responses';
import { loadScores, type FullScore } from '@/data/queries/scores';
import { activities, answersNow, attempts, courses, enrolments, itemQuestions } from '@/data/schema';
import { termOf, type ActivityRow } from '@/data/queries/courseModel';
import { requireStudent, type Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import type { Snapshot } from '../snapshot/snapshot';
import { outcomesOf } from './brief';
import { taughtOutcomes } from './outcomes';

/** How often each student handed activities in, by attempts on record or by the answers of each, whichever tells of more. */
type AttemptsMade = (student: number, activity: number) => number;

async function attemptsMade(
  { orm }: Access,
  which: { readonly students?: readonly number[]; readonly activities?: readonly number[] },
): Promise<AttemptsMade> {
  const only = (student: AnyColumn, activity: AnyColumn) =>
    and(
      which.students ? inArray(student, [...which.students]) : undefined,
      which.activities ? inArray(activity, [...which.activities]) : undefined,
    );
  const submitted = await orm
    .select({ who: attempts.enrolmentId, what: attempts.activityId, n: sql`count(*)`.mapWith(Number) })
    .from(attempts)
    .where(only(attempts.enrolmentId, attempts.activityId))
    .groupBy(attempts.enrolmentId, attempts.activityId);
  const answered = await orm
    .select({
      who: answersNow.enrolmentId,
      what: answersNow.activityId,
      n: sql`max(${answersNow.attempt})`.mapWith(Number),
    })
    .from(answersNow)
    .where(and(isNotNull(answersNow.activityId), only(answersNow.enrolmentId, answersNow.activityId)))
    .groupBy(answersNow.enrolmentId, answersNow.activityId);
  const made = new Map<string, number>();
  for (const { who, what, n } of [...submitted, ...answered])
    made.set(`${who} ${what}`, Math.max(n, made.get(`${who} ${what}`) ?? 0));
  return (student, activity) => made.get(`${student} ${activity}`) ?? 0;
}

const allowedFor = (activity: ActivityRow, score: FullScore | undefined): number | null =>
  activity.attemptsAllowed == null ? null : activity.attemptsAllowed + (score?.extraAttempts ?? 0);

/** Everybody in a course, and what stands in the gradebook for each. */
interface Takers {
  readonly students: readonly number[];
  readonly scores: ReadonlyMap<number, ReadonlyMap<string, FullScore>>;
  readonly made: AttemptsMade;
}

/** Those who have a quiz. */
function* takersOf(activity: ActivityRow, { students, scores, made }: Takers): Generator<QuizTaker> {
  for (const id of students) {
    const score = scores.get(id)?.get(String(activity.id));
    if (score?.notTheirs) continue;
    yield {
      allowed: allowedFor(activity, score),
      made: Math.max(made(id, activity.id), score?.submitted == null ? 0 : 1),
      closes: score?.closes ?? activity.closesAt?.getTime() ?? null,
      due: dueFor({ due: activity.dueAt?.getTime() ?? null }, score),
    };
  }
}

/** Whether a student may see the key of an activity. */
function mayLook(activity: ActivityRow, student: number, all: Takers, term: Term): boolean {
  const at = now();
  const score = all.scores.get(student)?.get(String(activity.id));
  return showsKey(
    {
      shown: activity.keyShown,
      made: all.made(student, activity.id),
      held: score?.points != null && !isReturned(score, at),
      takers: takersOf(activity, all),
      termEnd: weekSpan(term, term.weeks).until,
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
  const answered = new Set(
    (
      await db.orm
        .selectDistinct({ id: answersNow.activityId })
        .from(answersNow)
        .where(and(eq(answersNow.enrolmentId, enrolmentId), isNotNull(answersNow.activityId)))
    ).map((row) => row.id!),
  );
  const ofMine = await attemptsMade(db, { students: [enrolmentId] });
  const all: Takers = {
    students: await activeStudents(db, course.row.id),
    scores: await snapshot.scores(),
    made: answered.size > 0 ? await attemptsMade(db, { activities: [...answered] }) : () => 0,
  };
  const at = now();
  const stands = course.activities.map((a): OwnActivity => {
    const score = own.get(String(a.id));
    const tries = Math.max(ofMine(enrolmentId, a.id), score?.submitted == null ? 0 : 1);
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
      .filter((a) => answered.has(a.id) && mayLook(a, enrolmentId, all, course.term))
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
    .select({ activity: activities, enrolmentId: enrolments.id, course: courses })
    .from(activities)
    .innerJoin(courses, eq(courses.id, activities.courseId))
    .innerJoin(enrolments, and(eq(enrolments.courseId, courses.id), eq(enrolments.personId, personId)))
    .where(eq(activities.id, activityId));
  if (!found) throw notFound('assignment of yours');
  const { activity, enrolmentId } = found;
  const all: Takers = {
    students: await activeStudents(db, found.course.id),
    scores: await loadScores(db, found.course.id),
    made: await attemptsMade(db, { activities: [activityId] }),
  };
  if (!mayLook(activity, enrolmentId, all, termOf(found.course)))
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
