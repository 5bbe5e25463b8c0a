import type { MasteryLevel } from './mastery';

/** How a student's level of an outcome changed from one day to another. */
export type LevelChange = 'newly secure' | 'slipped' | 'still learning';
export const LEVEL_CHANGES: readonly LevelChange[] = ['newly secure', 'still learning', 'slipped'];

/**
 * What became of a level over a window: newly secure, slipped (secure before and not any more), or still learning (asked within
 * the window, and secure neither before nor after). Null for the rest: secure all along, or not asked.
 */
export function levelChange(
  before: MasteryLevel,
  after: MasteryLevel,
  askedWithin: boolean,
): LevelChange | null {
  if (before !== 'secure' && after === 'secure') return 'newly secure';
  if (before === 'secure' && after !== 'secure') return 'slipped';
  return after !== 'secure' && askedWithin ? 'still learning' : null;
}
