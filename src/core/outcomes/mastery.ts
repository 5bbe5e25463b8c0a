import { betaCdf, betaQuantile } from '../statistics/beta';
import { DAY_MS, type Instant } from '../units';

/** One piece of evidence about an outcome. */
export interface Evidence {
  /** Share of the points, 0 to 1. */
  readonly share: number;
  /** How many item responses it stands for. */
  readonly weight: number;
  readonly at: Instant;
}

/** From the most to the least reached, and what cannot be said. */
export const MASTERY_LEVELS = ['secure', 'developing', 'not yet', 'too little data'] as const;
export type MasteryLevel = (typeof MASTERY_LEVELS)[number];

export interface Mastery {
  readonly mean: number;
  /** Ends of the equal-tailed 80 % interval. */
  readonly low: number;
  readonly high: number;
  /** Evidence after weighting for age. */
  readonly effective: number;
  readonly level: MasteryLevel;
  /** Instant of the latest evidence; null without any. */
  readonly askedAt: Instant | null;
}

export interface BetaPrior {
  readonly a: number;
  readonly b: number;
}

/** What is taken for granted of nobody: every share is as likely. */
export const FLAT_PRIOR: BetaPrior = { a: 1, b: 1 };

/** Days after which evidence counts half. */
export const HALF_LIFE_DAYS = 21;
/** A share of the points from which an outcome counts as reached, and under which it does not. */
export const SECURE_FROM = 0.7;
export const NOT_YET_UNDER = 0.6;
/** A level is said when it is at least this probable. */
export const SURE_FROM = 0.7;
/** Weight, before ageing, of two assignments, two short quizzes or a long one. */
export const LEAST_EVIDENCE = 5;
/** Days without new evidence after which a level is said to be old. */
export const LATELY_DAYS = 42;
/** Strength of the prior: at least one observation, so that it exists; at most two, so that evidence soon speaks. */
const PRIOR_STRENGTH = { least: 1, most: 2 } as const;

/** Whether an outcome has evidence but none of late: "not asked lately" is said beside the level. */
export const notAskedLately = (askedAt: Instant | null, asOf: Instant): boolean =>
  askedAt != null && asOf - askedAt > LATELY_DAYS * DAY_MS;

/** Weight of evidence after its age: halves every half-life. */
function faded(evidence: Evidence, asOf: Instant, halfLifeDays: number): number {
  return evidence.weight * 2 ** (-(asOf - evidence.at) / DAY_MS / halfLifeDays);
}

/** The share of the points that evidence holds, before ageing; none without any. */
export function evidenceShare(evidence: readonly Evidence[]): number[] {
  const weight = evidence.reduce((sum, e) => sum + e.weight, 0);
  return weight > 0 ? [evidence.reduce((sum, e) => sum + e.weight * e.share, 0) / weight] : [];
}

/**
 * Prior from the class, by moments: the mean of the students' shares, and the strength a + b that makes a beta
 * distribution as wide as they are (empirical Bayes; Carlin & Louis 2000, ch. 3), held between a floor and a ceiling.
 * Beta(1, 1) under three students.
 */
export function classPrior(shares: readonly number[]): BetaPrior {
  if (shares.length < 3) return FLAT_PRIOR;
  const mean = shares.reduce((t, v) => t + v, 0) / shares.length;
  const variance = shares.reduce((t, v) => t + (v - mean) ** 2, 0) / (shares.length - 1);
  const centre = Math.min(0.95, Math.max(0.05, mean));
  const raw = variance > 0 ? (centre * (1 - centre)) / variance - 1 : PRIOR_STRENGTH.most;
  const strength = Math.min(PRIOR_STRENGTH.most, Math.max(PRIOR_STRENGTH.least, raw));
  return { a: centre * strength, b: (1 - centre) * strength };
}

/**
 * How far an outcome is learnt: the posterior of a beta-binomial model with evidence weighted by age, its mean and
 * its 80 % interval. Age draws the estimate to the class and widens it, but does not make evidence too little: that is
 * judged by the weights before ageing. Secure if P(theta >= 0.7) is at least 0.7, not yet if P(theta < 0.6) is, else
 * developing. Evidence from after `asOf` counts nothing.
 */
export function mastery(
  evidence: readonly Evidence[],
  prior: BetaPrior,
  asOf: Instant,
  halfLifeDays = HALF_LIFE_DAYS,
): Mastery {
  let right = 0;
  let effective = 0;
  let whole = 0;
  let askedAt: Instant | null = null;
  for (const piece of evidence) {
    if (piece.at > asOf) continue;
    const weight = faded(piece, asOf, halfLifeDays);
    right += weight * piece.share;
    effective += weight;
    whole += piece.weight;
    askedAt = Math.max(askedAt ?? piece.at, piece.at);
  }
  const a = prior.a + right;
  const b = prior.b + effective - right;
  let level: MasteryLevel = 'developing';
  if (whole < LEAST_EVIDENCE) level = 'too little data';
  else if (1 - betaCdf(SECURE_FROM, a, b) >= SURE_FROM) level = 'secure';
  else if (betaCdf(NOT_YET_UNDER, a, b) >= SURE_FROM) level = 'not yet';
  return {
    mean: a / (a + b),
    // Quantiles take longer than all the rest: they are found for what is drawn or stored.
    get low() {
      return betaQuantile(0.1, a, b);
    },
    get high() {
      return betaQuantile(0.9, a, b);
    },
    effective,
    level,
    askedAt,
  };
}
