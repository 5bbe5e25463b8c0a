import type { EffortPlace } from '../activity/effort';
import type { Rhythm } from '../activity/rhythm';
import type { Completion } from '../gradebook/completion';
import type { Standing } from '../gradebook/standing';
import type { GradeTrend } from '../gradebook/trend';
import type { Minutes, Percent } from '../units';

/** Minutes of a student in a window of days that ends today, with the class beside it. */
export interface WindowTime {
  readonly minutes: Minutes;
  /** Of those who were in the course for the whole window. */
  readonly classMedian: Minutes;
  /** Whether the student was: less time than others says nothing of somebody who came in the middle of it. */
  readonly whole: boolean;
}

/** Everything the indicators look at, for one student as of one day. */
export interface StudentMeasures {
  /** Whether anything at all is recorded of the class: without it, silence says nothing. */
  readonly activityKnown: boolean;
  readonly rhythm: Rhythm;
  /** Time in the window of the indicator "low time". */
  readonly recentTime: WindowTime;
  /** Time in the longer window of "effort without progress". */
  readonly effortTime: WindowTime;
  /** The standing of those with about as much time in that window; null without a standing of one's own. */
  readonly effortBand: EffortPlace | null;
  readonly completion: Completion;
  readonly standing: Standing;
  /** Graded works behind the standing. */
  readonly gradedWorks: number;
  /** Standing four weeks before, for the sentence; null if none then. */
  readonly standingBefore: Percent | null;
  /** Place of the standing in the class: 0 lowest, 1 highest; null without a standing. */
  readonly standingRank: number | null;
  readonly trend: GradeTrend | null;
  /** See `gainAgainstClass`. */
  readonly gain: Percent | null;
}
