/** Which of several attempts counts for the grade. */
export const ATTEMPT_POLICIES = ['first', 'best', 'last', 'average'] as const;
export type AttemptPolicy = (typeof ATTEMPT_POLICIES)[number];

/**
 * The points that several attempts come to under a policy; null if the points of none are known. An attempt whose points are
 * not known yet is left out.
 *
 * @param points of the attempts in their order
 */
export function pointsOfAttempts(points: readonly (number | null)[], policy: AttemptPolicy): number | null {
  const known = points.filter((p) => p != null);
  if (known.length === 0) return null;
  switch (policy) {
    case 'first':
      return known[0]!;
    case 'last':
      return known.at(-1)!;
    case 'best':
      return Math.max(...known);
    case 'average':
      return known.reduce((sum, p) => sum + p, 0) / known.length;
  }
}
