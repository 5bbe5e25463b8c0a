import { median } from '../statistics/quantile';
import type { Minutes } from '../units';

/** How much of a plan falls on a day. */
export interface PlanPace {
  readonly minutesPerDay: Minutes;
  /** After a silence: the first day holds one short step. */
  readonly gentle: boolean;
  /** Weekdays on which the student does not learn, 1 for Monday; none where they said nothing. */
  readonly weekdaysOff?: readonly number[];
}

/** Minutes a day that a plan may ask for, whatever is usual. */
const MINUTES = { least: 20, most: 60, unknown: 30 } as const;
/** From so many days without anything on, a plan begins gently, with a step of so many minutes at most. */
const SILENCE_DAYS = 7;
export const GENTLE_MINUTES: Minutes = 15;

/**
 * The pace of a plan: the student's own usual minutes on an active day (median), held between 20 and 60; gentle after a
 * week or more of silence.
 *
 * @param days minutes of the days on which the student was active
 * @param daysSince days since the last of them; null if there was none
 */
export function planPace(days: readonly Minutes[], daysSince: number | null): PlanPace {
  const usual = Math.round(median(days) ?? MINUTES.unknown);
  return {
    minutesPerDay: Math.min(MINUTES.most, Math.max(MINUTES.least, usual)),
    gentle: daysSince == null || daysSince >= SILENCE_DAYS,
  };
}
