import type { DaySpan } from '../calendar/window';
import { addDays, startOfDay } from '../calendar/zone';
import { median } from '../statistics/quantile';
import type { Percent } from '../units';
import type { GradedWork } from './trend';

/** How a student's works in the window lie against those before, both relative to the class. */
export interface Turn {
  /** Median of the works in the window less the median of those before, in points. */
  readonly change: Percent;
  readonly works: number;
  readonly worksBefore: number;
}

/** So many works on each side are needed, and so many points make a turn. */
export const TURN = { leastIn: 2, leastBefore: 3, points: 8 } as const;

/**
 * Whether a student turned in the window: the median of per cent less the class median of each work, in the window
 * and before it. Relative to the class, so that a hard exam is not a turn of everyone. Null with too few works.
 */
export function turnIn(
  works: readonly GradedWork[],
  medians: ReadonlyMap<string, Percent>,
  window: DaySpan,
  zone: string,
): Turn | null {
  const inside: number[] = [];
  const before: number[] = [];
  const from = startOfDay(window.from, zone);
  const until = startOfDay(addDays(window.to, 1), zone);
  for (const work of works) {
    const relative = work.percent - (medians.get(work.activity) ?? work.percent);
    if (work.at < from) before.push(relative);
    else if (work.at < until) inside.push(relative);
  }
  if (inside.length < TURN.leastIn || before.length < TURN.leastBefore) return null;
  return {
    change: median(inside)! - median(before)!,
    works: inside.length,
    worksBefore: before.length,
  };
}

export const turned = (turn: Turn | null): 'down' | 'up' | null =>
  turn == null || Math.abs(turn.change) < TURN.points ? null : turn.change < 0 ? 'down' : 'up';
