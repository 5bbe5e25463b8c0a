import { isReturned } from '../gradebook/status';
import type { ClassRecord, StudentRecord } from '../course/record';
import type { Steps } from '../steps';
import type { Instant } from '../units';
import { classPrior, mastery, type Evidence, type Mastery } from './mastery';

/**
 * A graded work stands for this many item responses about each outcome it covers. Marks inside one work hang
 * together, so a work of twenty points is far less than twenty answers; four is our assumption until item responses
 * come in.
 */
export const RESPONSES_PER_WORK = 4;

/** Outcomes covered by each activity, by id. */
export type OutcomesOf = ReadonlyMap<string, readonly string[]>;

function evidenceOf(record: ClassRecord, student: StudentRecord, covers: OutcomesOf, asOf: Instant) {
  const byOutcome = new Map<string, Evidence[]>();
  for (const activity of record.book.activities) {
    const outcomes = covers.get(activity.id);
    const score = student.scores.get(activity.id);
    if (!outcomes?.length || !score || score.excused || activity.points <= 0 || !isReturned(score, asOf))
      continue;
    const evidence = {
      share: Math.min(1, Math.max(0, score.points! / activity.points)),
      weight: RESPONSES_PER_WORK,
      at: score.submitted ?? activity.due ?? score.returned!,
    };
    for (const outcome of outcomes) byOutcome.set(outcome, [...(byOutcome.get(outcome) ?? []), evidence]);
  }
  return byOutcome;
}

/** Mastery of every outcome by every student as of an instant: student id, then outcome id. A step is one of them. */
export function* classMastery(
  record: ClassRecord,
  outcomes: readonly string[],
  covers: OutcomesOf,
  asOf: Instant,
): Steps<Map<number, Map<string, Mastery>>> {
  const evidence = new Map(record.students.map((s) => [s.id, evidenceOf(record, s, covers, asOf)]));
  const result = new Map<number, Map<string, Mastery>>(record.students.map((s) => [s.id, new Map()]));
  for (const outcome of outcomes) {
    const shares: number[] = [];
    for (const ofStudent of evidence.values()) {
      const pieces = ofStudent.get(outcome);
      if (!pieces) continue;
      const weight = pieces.reduce((t, p) => t + p.weight, 0);
      shares.push(pieces.reduce((t, p) => t + p.weight * p.share, 0) / weight);
    }
    const prior = classPrior(shares);
    for (const [student, ofStudent] of evidence) {
      result.get(student)!.set(outcome, mastery(ofStudent.get(outcome) ?? [], prior, asOf));
      yield;
    }
  }
  return result;
}
