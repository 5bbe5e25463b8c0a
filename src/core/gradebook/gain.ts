import { mean } from 'simple-statistics';
import type { Percent } from '../units';
import type { GradedWork } from './trend';

/** Assignments that are held against those before them. */
const LATEST = 3;
/** Assignments before them that say how it was. */
const LEAST_BEFORE = 2;

/**
 * Percentage points by which the last three graded works of a student lie over those before, each taken less the class
 * median of that work; negative if under, null under five works. That three assignments make a change is common
 * practice.
 *
 * @param works in the order in which they were due
 */
export function gainAgainstClass(
  works: readonly GradedWork[],
  medians: ReadonlyMap<string, Percent>,
): Percent | null {
  if (works.length < LATEST + LEAST_BEFORE) return null;
  const relative = works.map((w) => w.percent - (medians.get(w.activity) ?? w.percent));
  return mean(relative.slice(-LATEST)) - mean(relative.slice(0, -LATEST));
}
