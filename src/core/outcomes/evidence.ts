import { isReturned } from '../gradebook/status';
import type { ClassRecord, StudentRecord } from '../course/record';
import type { Steps } from '../steps';
import type { Instant } from '../units';
import {
  classPrior,
  evidenceShare,
  FLAT_PRIOR,
  mastery,
  type BetaPrior,
  type Evidence,
  type Mastery,
} from './mastery';

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

/** What one student answered in one attempt, of the items that are scored and count. */
export interface AnsweredAttempt {
  readonly activity: string;
  readonly responses: number;
  /** What these count together: one each, half after a hint. */
  readonly worth: number;
  /** Mean of their scores by what they count, 0 to 1. */
  readonly share: number;
  /** Instant of the last answer, if it is known. */
  readonly at: Instant | null;
}
export type AnswersOf = ReadonlyMap<number, readonly AnsweredAttempt[]>;

/** What a test outside the course says of an outcome; its weight is what it states. */
export interface OutsideEvidence extends Evidence {
  readonly outcome: string;
}

/** What is known of learning beside the grades. */
export interface LearningRecord {
  readonly answers: AnswersOf;
  readonly outside: ReadonlyMap<number, readonly OutsideEvidence[]>;
}

/** What an answer counts that was given after a hint. */
export const AFTER_HINT = 0.5;

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
  for (const outcome of covered)
    for (const at of withWholes(outcome, parentOf))
      weights.set(at, Math.min(whole, (weights.get(at) ?? 0) + each));
  return weights;
}

/** An outcome with all that it is part of, from the smallest on. */
function* withWholes(outcome: string, parentOf: ReadonlyMap<string, string>): Generator<string> {
  const seen = new Set<string>();
  for (let at: string | undefined = outcome; at != null && !seen.has(at); at = parentOf.get(at)) {
    seen.add(at);
    yield at;
  }
}

const parentsOf = (outcomes: readonly OutcomePart[]): Map<string, string> =>
  new Map(outcomes.flatMap((o) => (o.parent == null ? [] : [[o.id, o.parent] as const])));

/**
 * Evidence of one student by outcome: the responses to items where they are known, else the returned grade, and what tests
 * outside the course say. Excused assignments are none, and nothing is before its grade was returned. What an outcome is
 * part of has the evidence of its parts.
 */
function evidenceOf(
  record: Pick<ClassRecord, 'book'>,
  student: Pick<StudentRecord, 'id' | 'scores'>,
  { answers, outside }: LearningRecord,
  covers: OutcomesOf,
  parentOf: ReadonlyMap<string, string>,
  asOf: Instant,
): Map<string, Evidence[]> {
  const byOutcome = new Map<string, Evidence[]>();
  const addTo = (outcome: string, piece: Evidence) => {
    const list = byOutcome.get(outcome);
    if (list) list.push(piece);
    else byOutcome.set(outcome, [piece]);
  };
  const add = (activity: string, share: number, whole: number, at: Instant) => {
    for (const [outcome, weight] of sharedWeight(whole, covers.get(activity)!, parentOf))
      addTo(outcome, { share: Math.min(1, Math.max(0, share)), weight, at });
  };
  const known = new Set<string>();
  for (const { activity, responses, worth, share, at } of answers.get(student.id) ?? []) {
    if (!covers.get(activity)?.length || responses === 0) continue;
    const score = student.scores.get(activity);
    const when = at ?? score?.submitted ?? score?.returned;
    if (when == null || score?.excused || (score && !isReturned(score, asOf))) continue;
    known.add(activity);
    add(activity, share, (independentResponses(responses) * worth) / responses, when);
  }
  for (const activity of record.book.activities) {
    const score = student.scores.get(activity.id);
    if (known.has(activity.id) || !covers.get(activity.id)?.length || activity.points <= 0) continue;
    if (!score || score.excused || !isReturned(score, asOf)) continue;
    const at = score.submitted ?? activity.due ?? score.returned!;
    add(activity.id, score.points! / activity.points, RESPONSES_PER_ASSIGNMENT, at);
  }
  for (const { outcome, ...piece } of outside.get(student.id) ?? [])
    for (const whole of withWholes(outcome, parentOf)) addTo(whole, piece);
  return byOutcome;
}

/** What each outcome is measured against: its prior, by id. */
export type Priors = ReadonlyMap<string, BetaPrior>;

/**
 * Mastery of every outcome by one student as of an instant, against priors that stand: what it costs does not depend on the
 * rest of the class. An outcome without a prior starts from Beta(1, 1).
 */
export function studentMastery(
  record: Pick<ClassRecord, 'book'>,
  student: Pick<StudentRecord, 'id' | 'scores'>,
  outcomes: readonly OutcomePart[],
  covers: OutcomesOf,
  learning: LearningRecord,
  priors: Priors,
  asOf: Instant,
): Map<string, Mastery> {
  const evidence = evidenceOf(record, student, learning, covers, parentsOf(outcomes), asOf);
  return new Map(
    outcomes.map(({ id }) => [id, mastery(evidence.get(id) ?? [], priors.get(id) ?? FLAT_PRIOR, asOf)]),
  );
}

/** Mastery of a class, and the priors that it rests on. */
export interface ClassMastery {
  /** Student id, then outcome id. */
  readonly students: ReadonlyMap<number, ReadonlyMap<string, Mastery>>;
  readonly priors: Priors;
}

/** Mastery of every outcome by every student as of an instant. A step is one of them. */
export function* classMastery(
  record: ClassRecord,
  outcomes: readonly OutcomePart[],
  covers: OutcomesOf,
  learning: LearningRecord,
  asOf: Instant,
): Steps<ClassMastery> {
  const parentOf = parentsOf(outcomes);
  const evidence = new Map(
    record.students.map((s) => [s.id, evidenceOf(record, s, learning, covers, parentOf, asOf)]),
  );
  const students = new Map<number, Map<string, Mastery>>(record.students.map((s) => [s.id, new Map()]));
  const priors = new Map<string, BetaPrior>();
  for (const { id: outcome } of outcomes) {
    const prior = classPrior([...evidence.values()].flatMap((of) => evidenceShare(of.get(outcome) ?? [])));
    priors.set(outcome, prior);
    for (const [student, ofStudent] of evidence) {
      students.get(student)!.set(outcome, mastery(ofStudent.get(outcome) ?? [], prior, asOf));
      yield;
    }
  }
  return { students, priors };
}
