import type { GradeTrend } from './trend';
import { LEAST_WORKS_FOR_TREND } from './trend';

export type Direction = 'falling' | 'rising' | 'none' | 'unknown';

/** Above this p of the Mann-Kendall test a series has no trend to speak of; under the other it is clear. */
export const TREND_P = { clear: 0.05, perhaps: 0.1 } as const;

/** Which way a student's work goes against the class, where the test finds a trend at all. */
export function direction(trend: GradeTrend | null): Direction {
  if (!trend || trend.relativePerWeek == null || trend.test.p == null) return 'unknown';
  if (trend.test.p > TREND_P.perhaps || trend.relativePerWeek === 0) return 'none';
  return trend.relativePerWeek < 0 ? 'falling' : 'rising';
}

/** A trend as a plain sentence with how sure it is. */
export function trendSentence(trend: GradeTrend | null): string {
  if (!trend || trend.relativePerWeek == null || trend.test.p == null)
    return `Too little data: fewer than ${LEAST_WORKS_FOR_TREND} graded assignments.`;
  const { relativePerWeek: slope, test, n } = trend;
  const way = direction(trend);
  if (way === 'none') return `No clear trend over ${n} graded assignments: it could be chance.`;
  const verb = way === 'falling' ? 'Falls' : 'Rises';
  const sure = test.p! <= TREND_P.clear ? 'clear' : 'likely';
  return `${verb} ${Math.abs(slope).toFixed(1)} points a week against the class over ${n} graded assignments: ${sure}.`;
}
