import { groupBy } from '../groupBy';
import { scoreOf, type ItemKey } from './treatment';

/** An answer as it came, with the score that it came with. */
export interface CameAnswer {
  readonly student: number;
  readonly item: string;
  readonly attempt: number;
  readonly answer: string;
  /** 0 to 1; null if it was not scored. */
  readonly came: number | null;
}

/** The share of a quiz that an attempt reached, 0 to 1. */
export interface AttemptShare {
  readonly attempt: number;
  readonly share: number;
}

/** How the keys of a quiz stand, by item; one that is not there is scored as its answers came. */
export type Keys = ReadonlyMap<string, ItemKey>;

/**
 * The share of a quiz that each attempt of each student reached: the mean score over its items, those not answered as 0,
 * dropped ones left out. Null where every item is dropped.
 */
export function attemptShares(
  answers: readonly CameAnswer[],
  keys: Keys,
): ReadonlyMap<number, readonly AttemptShare[]> | null {
  const asked = [...new Set(answers.map((a) => a.item))];
  const counted = asked.filter((item) => keys.get(item)?.treatment !== 'dropped');
  if (counted.length === 0) return null;
  const given = counted.filter((item) => keys.get(item)?.treatment === 'given').length;
  const shares = new Map<number, AttemptShare[]>();
  for (const [student, own] of groupBy(answers, (a) => a.student)) {
    const attempts = [...groupBy(own, (a) => a.attempt)].sort(([a], [b]) => a - b);
    shares.set(
      student,
      attempts.map(([attempt, list]) => {
        // What everybody is given the point for is right whether it was answered or not.
        const scores = list.flatMap(({ item, answer, came }) => {
          const key = keys.get(item);
          return key?.treatment === 'given' || key?.treatment === 'dropped'
            ? []
            : (scoreOf(key, answer, came) ?? 0);
        });
        return { attempt, share: (scores.reduce((sum, s) => sum + s, 0) + given) / counted.length };
      }),
    );
  }
  return shares;
}

/** Points are kept to two digits. */
const toCents = (points: number): number => Math.round(points * 100) / 100;
/** Points that differ by less are the same. */
const SAME = 0.005;

/** Points after the share of the items has moved; never under 0 nor over the maximum, unless they were before. */
const shifted = (points: number, maximum: number, from: number, to: number): number => {
  if (from === to) return points;
  const moved = toCents(points + maximum * (to - from));
  return Math.min(Math.max(moved, Math.min(0, points)), Math.max(maximum, points));
};

/** What a grade was with the keys as they were then: from where changes of keys are counted. */
export interface GradeBase {
  readonly points: number;
  readonly share: number;
}

/**
 * The points of a grade after the keys have changed, with where it is counted from. The difference that the items make is added,
 * so that what else went into the grade (a late penalty, a point by hand) stays. It is counted from the first change, so
 * that a key that is changed back gives the very points that were there; a grade that was given anew since is a new beginning.
 */
export function regraded(
  points: number,
  maximum: number,
  before: number,
  after: number,
  base: GradeBase | null,
): { readonly points: number; readonly base: GradeBase } {
  const stands = base != null && Math.abs(shifted(base.points, maximum, base.share, before) - points) < SAME;
  const from = stands ? base : { points, share: before };
  return { points: shifted(from.points, maximum, from.share, after), base: from };
}

/** A grade that moves with a key. */
export interface Move {
  readonly student: number;
  readonly from: number;
  readonly to: number;
  readonly base: GradeBase;
}

/** A grade as it stands. */
export interface StandingGrade {
  readonly student: number;
  readonly points: number;
  readonly base: GradeBase | null;
}

/** The attempt that a grade rests on: the one whose share comes nearest to it, the later of equals. */
function attemptOf(shares: readonly AttemptShare[], points: number, maximum: number): number {
  let best = 0;
  shares.forEach(({ share }, i) => {
    if (Math.abs(share * maximum - points) <= Math.abs(shares[best]!.share * maximum - points)) best = i;
  });
  return best;
}

/**
 * Whose grade of a quiz moves when its keys change, and from what to what. Nobody's where no item would be left that counts, and
 * not of those who answered nothing.
 */
export function movesOf(
  answers: readonly CameAnswer[],
  before: Keys,
  after: Keys,
  grades: readonly StandingGrade[],
  maximum: number,
): Move[] {
  const were = attemptShares(answers, before);
  const will = attemptShares(answers, after);
  if (!were || !will) return [];
  return grades.flatMap(({ student, points, base }): Move[] => {
    const own = were.get(student);
    if (!own) return [];
    const of = attemptOf(own, points, maximum);
    const next = regraded(points, maximum, own[of]!.share, will.get(student)![of]!.share, base);
    return Math.abs(next.points - points) < SAME
      ? []
      : [{ student, from: points, to: next.points, base: next.base }];
  });
}
