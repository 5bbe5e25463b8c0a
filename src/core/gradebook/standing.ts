import type { Instant, Percent } from '../units';
import { lateDays } from './lateDays';
import type { Gradebook, GradedActivity, Score, ScoresByActivity } from '../course/gradebook';
import { dueFor, isMissing, isReturned } from './status';

interface Counted {
  readonly id: string;
  readonly points: number;
  /** What the work adds to the maximum of its category: 0 for extra credit. */
  readonly maximum: number;
}

export interface Standing {
  /** Weighted grade as of the date; null where nothing counts. */
  readonly standing: Percent | null;
  /** The final grade if everything that is open brought nothing, or full points. */
  readonly lowestPossible: Percent | null;
  readonly highestPossible: Percent | null;
}

/**
 * The weighted grade of one student as of an instant, with the lowest and highest final grade still possible.
 *
 * A work counts when it was returned with points by then; excused never; missing as 0 or not at all by the policy. A
 * category is the sum of points over the sum of maxima of what counts, after dropping; weights are renormalised over
 * the categories that count anything. For the possible grades, every work that is neither excused nor counted is
 * filled with 0 or with full points (a missing work that counts as 0 stays 0), and the same rule applies.
 */
export function standing(book: Gradebook, scores: ScoresByActivity, asOf: Instant): Standing {
  return {
    standing: gradeWith(book, scores, asOf, null),
    lowestPossible: gradeWith(book, scores, asOf, 0),
    highestPossible: gradeWith(book, scores, asOf, 1),
  };
}

/** The weighted grade alone, for a table of a whole class. */
export const standingNow = (book: Gradebook, scores: ScoresByActivity, asOf: Instant): Percent | null =>
  gradeWith(book, scores, asOf, null);

/**
 * The average, in per cent of full points, needed on all open works to finish at `target`. Null if nothing is open or
 * no work counts; under 0 never (0 means it is safe); `Infinity` if even full points do not reach it.
 */
export function neededOnRest(
  book: Gradebook,
  scores: ScoresByActivity,
  asOf: Instant,
  target: Percent,
): Percent | null {
  const grade = (share: number) => gradeWith(book, scores, asOf, share);
  const least = grade(0);
  const most = grade(1);
  if (least == null || most == null || least === most) return null;
  if (least >= target) return 0;
  if (most < target) return Infinity;
  // Dropping makes the grade a broken line in the share, but never a falling one: bisection finds the crossing.
  let low = 0;
  let high = 1;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (grade(middle)! < target) low = middle;
    else high = middle;
  }
  return high * 100;
}

/** The weighted grade with open works filled at `fill` of their maximum, or left out if null. */
function gradeWith(
  book: Gradebook,
  scores: ScoresByActivity,
  asOf: Instant,
  fill: number | null,
): Percent | null {
  let weighted = 0;
  let weights = 0;
  for (const category of book.categories) {
    const counted: Counted[] = [];
    for (const activity of book.activities) {
      if (activity.category !== category.id) continue;
      const work = countedWork(activity, scores.get(activity.id), book, asOf, fill);
      if (work) counted.push(work);
    }
    const share = categoryShare(dropLowest(counted, category.dropLowest));
    if (share == null) continue;
    weighted += category.weight * share;
    weights += category.weight;
  }
  return weights > 0 ? (100 * weighted) / weights : null;
}

function countedWork(
  activity: GradedActivity,
  score: Score | undefined,
  book: Pick<Gradebook, 'policy' | 'zone'>,
  asOf: Instant,
  fill: number | null,
): Counted | null {
  const maximum = activity.extraCredit ? 0 : activity.points;
  if (score?.excused) return null;
  if (isReturned(score, asOf)) {
    const points = score!.points! - lateDeduction(activity, score!, book);
    return { id: activity.id, points: Math.max(0, points), maximum };
  }
  if (book.policy.missing === 'zero' && isMissing(activity, score, asOf) && !activity.extraCredit) {
    return { id: activity.id, points: 0, maximum };
  }
  return fill == null ? null : { id: activity.id, points: fill * activity.points, maximum };
}

/** Points taken off for lateness: per started local day, up to the most. */
function lateDeduction(
  activity: GradedActivity,
  score: Score,
  { policy, zone }: Pick<Gradebook, 'policy' | 'zone'>,
): number {
  const rule = policy.latePenalty;
  const due = dueFor(activity, score);
  if (!rule || due == null || score.submitted == null || score.submitted <= due) return 0;
  const days = lateDays(due, score.submitted, zone);
  return (activity.points * Math.min(rule.most, rule.perDay * days)) / 100;
}

/**
 * Leaves out the `drop` works of lowest per cent, never the last one. Of equal per cents the one with the smaller
 * maximum goes, then the one with the smaller id. Extra credit has no per cent and is never dropped.
 */
export function dropLowest<W extends Counted>(works: readonly W[], drop: number): W[] {
  const regular = works.filter((w) => w.maximum > 0);
  const extra = works.filter((w) => w.maximum <= 0);
  const dropped = Math.max(0, Math.min(drop, regular.length - 1));
  const ranked = [...regular].sort(
    (a, b) =>
      a.points / a.maximum - b.points / b.maximum ||
      a.maximum - b.maximum ||
      (a.id < b.id ? -1 : a.id > b.id ? 1 : 0),
  );
  return [...ranked.slice(dropped), ...extra];
}

function categoryShare(works: readonly Counted[]): number | null {
  let points = 0;
  let maximum = 0;
  for (const work of works) {
    points += work.points;
    maximum += work.maximum;
  }
  return maximum > 0 ? points / maximum : null;
}
