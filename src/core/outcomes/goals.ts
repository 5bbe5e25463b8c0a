import { daysBetween } from '../calendar/zone';
import type { LocalDate } from '../units';

/** Outcomes that are to be secure by a day. */
export interface Goal {
  readonly id: number;
  readonly outcomes: readonly number[];
  readonly from: LocalDate;
  readonly by: LocalDate;
}

/** How far a student is with a goal. */
export interface GoalProgress {
  readonly of: number;
  readonly secure: number;
  /** Outcomes a week that it takes from today on to be there in time; null once the day is over and some are left. */
  readonly pace: number | null;
  /** Outcomes newly secure a week since the goal was set; null in its first week. */
  readonly newly: number | null;
}

const DAYS = 7;

/**
 * How far a student is with a goal: outcomes secure now, what it takes a week from today on (today counts), and how many became
 * secure a week since it was set, those lost again taken off.
 *
 * @param secure ids of the outcomes that are secure now
 * @param before ids of those that were when the goal was set
 */
export function goalProgress(
  goal: Goal,
  secure: ReadonlySet<number>,
  before: ReadonlySet<number>,
  today: LocalDate,
): GoalProgress {
  const count = (ids: ReadonlySet<number>) => goal.outcomes.filter((id) => ids.has(id)).length;
  const [now, then] = [count(secure), count(before)];
  const left = goal.outcomes.length - now;
  const daysLeft = daysBetween(today, goal.by) + 1;
  const since = daysBetween(goal.from, today);
  return {
    of: goal.outcomes.length,
    secure: now,
    pace: left === 0 ? 0 : daysLeft <= 0 ? null : (left * DAYS) / daysLeft,
    newly: since < DAYS ? null : ((now - then) * DAYS) / since,
  };
}

/** The goal that counts of several: the one due next that is not over, else the one that was due last; null without any. */
export function nextGoal<G extends Goal>(goals: readonly G[], today: LocalDate): G | null {
  const sorted = goals.toSorted((a, b) => (a.by < b.by ? -1 : a.by > b.by ? 1 : a.id - b.id));
  return sorted.find((g) => g.by >= today) ?? sorted.at(-1) ?? null;
}

/** Outcomes a week that somebody is ahead of what a goal takes; under 0 too slow. Null while it is too early to say. */
export const goalLead = ({ newly, pace }: Pick<GoalProgress, 'newly' | 'pace'>): number | null =>
  newly == null || pace == null ? null : newly - pace;

/** Where somebody is with a goal: there, fast enough, too slow to be there in time, or it is too early to say. */
export type GoalPlace = 'there' | 'fast enough' | 'too slow' | 'too early';

export function goalPlace(progress: GoalProgress): GoalPlace {
  if (progress.secure === progress.of) return 'there';
  // Its day is over.
  if (progress.pace == null) return 'too slow';
  const lead = goalLead(progress);
  if (lead == null) return 'too early';
  return lead < 0 ? 'too slow' : 'fast enough';
}
