import { gammaln } from 'simple-statistics';

/** Continued fraction of the incomplete beta function, by Lentz's method (NIST DLMF 8.17.22). */
function betaFraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  const guard = (v: number) => (Math.abs(v) < tiny ? tiny : v);
  let c = 1;
  let d = 1 / guard(1 - ((a + b) * x) / (a + 1));
  let result = d;
  for (let m = 1; m <= 2000; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / guard(1 + even * d);
    c = guard(1 + even / c);
    result *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / guard(1 + odd * d);
    c = guard(1 + odd / c);
    result *= d * c;
    if (Math.abs(d * c - 1) < 1e-16) break;
  }
  return result;
}

/** Cumulative beta distribution, P(X <= x) for X ~ Beta(a, b), with a, b > 0 and x in 0..1. NIST DLMF 8.17. */
export function betaCdf(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(gammaln(a + b) - gammaln(a) - gammaln(b) + a * Math.log(x) + b * Math.log1p(-x));
  return x < (a + 1) / (a + b + 2)
    ? (front * betaFraction(x, a, b)) / a
    : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

/** Quantile of Beta(a, b) at p in 0..1, by bisection of `betaCdf`: slow but sure, to the last bits of a double. */
export function betaQuantile(p: number, a: number, b: number): number {
  let low = 0;
  let high = 1;
  for (let i = 0; i < 1100 && high - low > 1e-16 * high; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (betaCdf(middle, a, b) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
