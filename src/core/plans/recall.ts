import { DAY_MS, type Instant } from '../units';

/** An answer from memory. */
export interface Recalled {
  readonly at: Instant;
  readonly right: boolean;
}

/** Days of the half-life: before the first answer, and at least and at most after any. */
export const HALF_LIFE = { first: 1, least: 1, most: 90 } as const;
/** Predicted recall under which something is due for review. */
export const REVIEW_UNDER = 0.7;

export interface Recall {
  readonly halfLifeDays: number;
  /** Predicted probability that it is still known, 0 to 1. */
  readonly recall: number;
  readonly due: boolean;
}

/**
 * How well something is still known by the answers to it: recall halves with each half-life since the last answer, which
 * doubles with each right answer and halves with each wrong one, within 1 to 90 days (half-life regression with these
 * steps; Settles & Meeder 2016). Answers after `asOf` are left out; null without any.
 */
export function recallOf(answers: readonly Recalled[], asOf: Instant): Recall | null {
  const known = answers.filter((a) => a.at <= asOf).sort((a, b) => a.at - b.at);
  const last = known.at(-1);
  if (!last) return null;
  let halfLifeDays: number = HALF_LIFE.first;
  for (const { right } of known)
    halfLifeDays = Math.min(HALF_LIFE.most, Math.max(HALF_LIFE.least, halfLifeDays * (right ? 2 : 0.5)));
  const recall = 2 ** (-(asOf - last.at) / DAY_MS / halfLifeDays);
  return { halfLifeDays, recall, due: recall < REVIEW_UNDER };
}
