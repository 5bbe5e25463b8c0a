/**
 * Upper tail of the standard normal, P(Z > z), to about 1e-15 relative. simple-statistics interpolates a table (1e-7),
 * too coarse to compare with reference software. Series for the centre, continued fraction for the tail:
 * Abramowitz & Stegun 1964, 26.2.10 and 26.2.14.
 */
export function normalUpperTail(z: number): number {
  if (Number.isNaN(z)) return NaN;
  if (z < 0) return 1 - normalUpperTail(-z);
  if (z > 38.6) return 0;
  const density = Math.exp(-(z * z) / 2) / Math.sqrt(2 * Math.PI);
  if (z < 3) {
    let term = z;
    let sum = z;
    for (let k = 1; Math.abs(term) > 1e-17 * Math.abs(sum) && k < 200; k++) {
      term *= (z * z) / (2 * k + 1);
      sum += term;
    }
    return 0.5 - density * sum;
  }
  let fraction = 0;
  for (let k = 120; k >= 1; k--) fraction = k / (z + fraction);
  return density / (z + fraction);
}

/** Two-sided p-value of a standard normal statistic. */
export function normalTwoSided(z: number): number {
  return Math.min(1, 2 * normalUpperTail(Math.abs(z)));
}
