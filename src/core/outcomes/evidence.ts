import { isReturned } from '../gradebook/status';
import type { ClassRecord, StudentRecord } from '../course/record';
import type { Steps } from '../steps';
import type { Instant } from '../units';
import { classPrior, evidenceShare, mastery, type Evidence, type Mastery } from './mastery';

/**
 * A graded assignment stands for this many item responses where its items are not known. Marks inside one assignment
 * hang together, so one of twenty points is far less than twenty answers; four is our assumption.
 */
export const RESPONSES_PER_ASSIGNMENT = 4;
/** However many outcomes it covers, an assignment says at least so much about each. */
const LEAST_SHARE = 1.5;
/** How much the responses of one attempt hang together (intraclass correlation; our assumption). */
const RESPONSES_ALIKE = 0.15;

/** Outcomes covered by each activity, by id. */
export type OutcomesOf = ReadonlyMap<string, readonly string[]>;

/** An outcome, and what it is part of. */
export interface OutcomePart {
  readonly id: string;
  readonly parent?: string | null;
}

/** What one student answered in one attempt, of the items that are scored. */
export interface AnsweredAttempt {
  readonly activity: string;
  readonly responses: number;
  /** Mean of their scores, 0 to 1. */
  readonly share: number;
  /** Instant of the last answer, if it is known. */
  readonly at: Instant | null;
}

export type AnswersOf = ReadonlyMap<number, readonly AnsweredAttempt[]>;

/**
 * How many independent responses n responses of one attempt are worth: n / (1 + (n - 1) * 0.15), by the design effect
 * of a cluster (Kish 1965, Survey Sampling, 5.4).
 */
export const independentResponses = (n: number): number => n / (1 + Math.max(0, n - 1) * RESPONSES_ALIKE);

/**
 * What one piece of work weighs for each outcome: its weight is shared among those it covers, at least 1.5 each. What
 * an outcome is part of has the sum of its parts, never more than the whole.
 */
export function sharedWeight(
  whole: number,
  covered: readonly string[],
  parentOf: ReadonlyMap<string, string>,
): Map<string, number> {
  const each = Math.max(whole / covered.length, Math.min(LEAST_SHARE, whole));
  const weights = new Map<string, number>();
  for (const outcome of covered) {
    const seen = new Set<string>();
    for (let at: string | undefined = outcome; at != null && !seen.has(at); at = parentOf.get(at)) {
      seen.add(at);
      weights.set(at, Math.min(whole, (weights.get(at) ?? 0) + each));
    }
  }
  return weights;
}

/**
 * Evidence of one student by outcome: the responses to items where they are known, else the returned grade. Excused
 * assignments are none, and nothing is before its grade was returned.
 */
function evidenceOf(
  record: ClassRecord,
  student: StudentRecord,
  answered: readonly AnsweredAttempt[],
  covers: OutcomesOf,
  parentOf: ReadonlyMap<string, string>,
  asOf: Instant,
) {
  const byOutcome = new Map<string, Evidence[]>();
  const add = (activity: string, share: number, whole: number, at: Instant) => {
    for (const [outcome, weight] of sharedWeight(whole, covers.get(activity)!, parentOf)) {
      const list = byOutcome.get(outcome);
      const piece = { share: Math.min(1, Math.max(0, share)), weight, at };
      if (list) list.push(piece);
      else byOutcome.set(outcome, [piece]);
    }
  };
  const known = new Set<string>();
  for (const { activity, responses, share, at } of answered) {
    if (!covers.get(activity)?.length || responses === 0) continue;
    const score = student.scores.get(activity);
    const when = at ?? score?.submitted ?? score?.returned;
    if (when == null || score?.excused || (score && !isReturned(score, asOf))) continue;
    known.add(activity);
    add(activity, share, independentResponses(responses), when);
  }
  for (const activity of record.book.activities) {
    const score = student.scores.get(activity.id);
    if (known.has(activity.id) || !covers.get(activity.id)?.length || activity.points <= 0) continue;
    if (!score || score.excused || !isReturned(score, asOf)) continue;
    const at = score.submitted ?? activity.due ?? score.returned!;
    add(activity.id, score.points! / activity.points, RESPONSES_PER_ASSIGNMENT, at);
  }
  return byOutcome;
}

/** Mastery of every outcome by every student as of an instant: student id, then outcome id. A step is one of them. */
export function* classMastery(
  record: ClassRecord,
  outcomes: readonly OutcomePart[],
  covers: OutcomesOf,
  answers: AnswersOf,
  asOf: Instant,
): Steps<Map<number, Map<string, Mastery>>> {
  const parentOf = new Map(outcomes.flatMap((o) => (o.parent == null ? [] : [[o.id, o.parent] as const])));
  const evidence = new Map(
    record.students.map((s) => [
      s.id,
      evidenceOf(record, s, answers.get(s.id) ?? [], covers, parentOf, asOf),
    ]),
  );
  const result = new Map<number, Map<string, Mastery>>(record.students.map((s) => [s.id, new Map()]));
  for (const { id: outcome } of outcomes) {
    const prior = classPrior([...evidence.values()].flatMap((of) => evidenceShare(of.get(outcome) ?? [])));
    for (const [student, ofStudent] of evidence) {
      result.get(student)!.set(outcome, mastery(ofStudent.get(outcome) ?? [], prior, asOf));
      yield;
    }
  }
  return result;
}
