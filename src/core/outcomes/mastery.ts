import { betaQuantile } from '../statistics/beta';
import { DAY_MS, type Instant } from '../units';

/** One piece of evidence about an outcome. */
export interface Evidence {
  /** Share of the points, 0 to 1. */
  readonly share: number;
  /** How many item responses it stands for. */
  readonly weight: number;
  readonly at: Instant;
}

export type MasteryLevel = 'secure' | 'developing' | 'not yet' | 'too little data';

export interface Mastery {
  readonly mean: number;
  /** Ends of the equal-tailed 80 % interval. */
  readonly low: number;
  readonly high: number;
  /** Evidence after weighting for age. */
  readonly effective: number;
  readonly level: MasteryLevel;
}

export interface BetaPrior {
  readonly a: number;
  readonly b: number;
}

/** Days after which evidence counts half. */
export const HALF_LIFE_DAYS = 21;
/** Level bounds: secure when the interval lies above, not yet when it lies below. */
export const SECURE_FROM = 0.7;
export const NOT_YET_UNDER = 0.6;
const LEAST_EVIDENCE = 4;
/** Strength of the prior: at least one observation, so that it exists; at most six, so that evidence soon speaks. */
const PRIOR_STRENGTH = { least: 1, most: 6 } as const;

/** Weight of evidence after its age: halves every half-life; evidence from after `asOf` counts nothing. */
function faded(evidence: Evidence, asOf: Instant, halfLifeDays: number): number {
  if (evidence.at > asOf) return 0;
  return evidence.weight * 2 ** (-(asOf - evidence.at) / DAY_MS / halfLifeDays);
}

/**
 * Prior from the class, by moments: the mean of the students' shares, and the strength a + b that makes a beta
 * distribution as wide as they are (empirical Bayes; Carlin & Louis 2000, ch. 3), held between a floor and a ceiling.
 * Beta(1, 1) under three students.
 */
export function classPrior(shares: readonly number[]): BetaPrior {
  if (shares.length < 3) return { a: 1, b: 1 };
  const mean = shares.reduce((t, v) => t + v, 0) / shares.length;
  const variance = shares.reduce((t, v) => t + (v - mean) ** 2, 0) / (shares.length - 1);
  const centre = Math.min(0.95, Math.max(0.05, mean));
  const raw = variance > 0 ? (centre * (1 - centre)) / variance - 1 : PRIOR_STRENGTH.most;
  const strength = Math.min(PRIOR_STRENGTH.most, Math.max(PRIOR_STRENGTH.least, raw));
  return { a: centre * strength, b: (1 - centre) * strength };
}

/**
 * How far an outcome is learnt: the posterior of a beta-binomial model with evidence weighted by age, its mean and
 * its 80 % interval. Under four effective responses the level is "too little data" whatever the interval.
 */
export function mastery(
  evidence: readonly Evidence[],
  prior: BetaPrior,
  asOf: Instant,
  halfLifeDays = HALF_LIFE_DAYS,
): Mastery {
  let right = 0;
  let effective = 0;
  for (const piece of evidence) {
    const weight = faded(piece, asOf, halfLifeDays);
    right += weight * piece.share;
    effective += weight;
  }
  const a = prior.a + right;
  const b = prior.b + effective - right;
  const low = betaQuantile(0.1, a, b);
  const high = betaQuantile(0.9, a, b);
  let level: MasteryLevel = 'developing';
  if (effective < LEAST_EVIDENCE) level = 'too little data';
  else if (low > SECURE_FROM) level = 'secure';
  else if (high < NOT_YET_UNDER) level = 'not yet';
  return { mean: a / (a + b), low, high, effective, level };
}
