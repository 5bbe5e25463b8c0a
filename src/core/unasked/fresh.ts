import { addDays, instantOf, localDate, startOfDay } from '../calendar/zone';
import { isStale } from '../course/stale';
import type { Instant } from '../units';
import { testsIn, type Selection } from '../rules/selection';
import { traitOf } from '../people/trait';
import type { When } from './rule';

/** Minutes after midnight until which a day waits for the data of the day before. */
const WAITS_UNTIL = 12 * 60;

/**
 * Whether the day before can be judged: once something of today has come in, which says that yesterday is whole, or at
 * noon; never on stale data.
 */
export function canJudge(dataUntil: Instant | null, at: Instant, zone: string): 'yes' | 'wait' | 'stale' {
  if (isStale(dataUntil, at)) return 'stale';
  const today = localDate(at, zone);
  if (dataUntil! >= startOfDay(today, zone)) return 'yes';
  return at >= instantOf(today, WAITS_UNTIL, zone) ? 'yes' : 'wait';
}

/** When a day that waits is looked at again. */
export const looksAgainAt = (at: Instant, zone: string): Instant => {
  const noon = instantOf(localDate(at, zone), WAITS_UNTIL, zone);
  return noon > at ? noon : startOfDay(addDays(localDate(at, zone), 1), zone);
};

/** Measures that only grades decide: they hold however old the events are. */
const BY_GRADES = ['standing', 'trend', 'gain'];

/** Whether a rule asks for what only the events of the source tell. */
export function needsEvents(when: When, where: Selection): boolean {
  if (when.on === 'due') return true;
  return testsIn(where).some((test) => {
    const trait = traitOf(test.measure);
    if (trait?.of === 'measure') return !BY_GRADES.includes(trait.measure);
    return trait?.of === 'opened' || (trait?.of === 'this' && trait.what !== 'percent');
  });
}
