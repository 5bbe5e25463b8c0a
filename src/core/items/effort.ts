import type { Seconds } from '../units';
import { normalUpperTail } from '../statistics/normal';

/** What an item is measured against: what the class's first answers to it say. */
export interface ItemNorm {
  /** Mean score of first answers. */
  readonly p: number;
  /** Fewer seconds than these are too few to read it; null where too few times are known. */
  readonly least: Seconds | null;
  /** Median of the class's times; null where too few are known. */
  readonly usual: Seconds | null;
  /** Different answers that were given to it. */
  readonly choices: number;
}

/** Times that must be known before an answer is called too quick. */
export const LEAST_TIMES = 20;
/** An answer is too quick under this share of the class's fifth percentile. */
export const QUICK_SHARE = 1 / 3;
export const QUICK_PERCENTILE = 0.05;
/** Answers of one sitting that must be known before it is looked at as a whole. */
export const LEAST_SET = 10;
/** The same answer to so many items and more, of which no two thirds ask for it, is no answer to them. */
const LEAST_ALIKE = 8;
/** Items with more different answers than these offer nothing to choose from. */
export const MOST_CHOICES = 6;
/** A sitting under this share of its usual time was a quick one. */
export const HURRIED = 0.5;
/** How probable so many right answers must be by choosing blindly, for blind choosing to be thought of. */
const BLIND = 0.2;

/** An answer of a sitting, with what its item is measured against. */
export interface SetAnswer {
  readonly answer: string;
  readonly score: number;
  readonly seconds: Seconds | null;
  readonly norm: ItemNorm;
}

/** Whether an answer came faster than its item can be read. */
export const isTooQuick = (seconds: Seconds | null, norm: ItemNorm | undefined): boolean =>
  seconds != null && norm?.least != null && seconds < norm.least;

/**
 * Runs test: how probable it is that a row of ups and downs has so few runs, or fewer, if their order is by chance (Wald and
 * Wolfowitz 1940; the normal approximation with a correction for continuity). 1 where all are alike.
 */
export function fewRuns(row: readonly boolean[]): number {
  const n = row.length;
  const ups = row.filter(Boolean).length;
  const downs = n - ups;
  if (ups === 0 || downs === 0) return 1;
  const runs = 1 + row.slice(1).filter((v, i) => v !== row[i]).length;
  const mean = 1 + (2 * ups * downs) / n;
  const variance = ((mean - 1) * (mean - 2)) / (n - 1);
  return variance <= 0 ? 1 : 1 - normalUpperTail((runs + 0.5 - mean) / Math.sqrt(variance));
}

/** How probable it is to get so many right, or more, where each is right by a chance of its own; by convolution. */
export function blindTail(chances: readonly number[], right: number): number {
  let by = [1];
  for (const c of chances) by = [...by, 0].map((v, k) => v * (1 - c) + (by[k - 1] ?? 0) * c);
  return by.slice(right).reduce((sum, v) => sum + v, 0);
}

const middle = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1]!;

/**
 * Whether the answers of a sitting have no relation to its items: one and the same answer to eight and more that do not all
 * ask for it; or, from ten on, a hurried sitting (under half of the class's usual time) in which no more are right than by
 * choosing blindly, and the easy items were not answered better than the hard ones (runs test). Slow and wrong is no such
 * sitting: that is somebody who does not know it yet.
 */
export function isAtRandom(set: readonly SetAnswer[]): boolean {
  const chosen = set.filter((a) => a.norm.choices >= 2 && a.norm.choices <= MOST_CHOICES);
  const right = chosen.filter((a) => a.score >= 1).length;
  const alike = new Set(chosen.map((a) => a.answer.trim())).size === 1;
  if (alike && chosen.length >= LEAST_ALIKE && right < (2 / 3) * chosen.length) return true;
  if (chosen.length < LEAST_SET) return false;
  const times = chosen.flatMap(({ seconds, norm }) =>
    seconds == null || norm.usual == null ? [] : [seconds / norm.usual],
  );
  if (times.length < LEAST_SET || middle(times) >= HURRIED) return false;
  const blind = blindTail(
    chosen.map((a) => 1 / a.norm.choices),
    right,
  );
  const fromEasy = chosen.toSorted((a, b) => b.norm.p - a.norm.p).map((a) => a.score >= 1);
  return blind >= BLIND && fewRuns(fromEasy) >= 0.5;
}
