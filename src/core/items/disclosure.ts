import type { Instant } from '../units';

/**
 * When students see the key of a quiz with its explanations: once nobody can submit it any more; each after an attempt of
 * their own, for practice; or now.
 */
export const KEY_SHOWN = ['closed', 'attempt', 'now'] as const;
export type KeyShown = (typeof KEY_SHOWN)[number];

/** A student who has a quiz, as far as it decides whether they can still submit it. */
export interface QuizTaker {
  /** Attempts that they may make, extra ones included; null for as many as they like. */
  readonly allowed: number | null;
  readonly made: number;
  /** When it closes for them; null if it doesn't. */
  readonly closes: Instant | null;
  /** When it is due for them, by an extension too: it does not close before that. */
  readonly due: Instant | null;
}

/**
 * Whether a student can still submit a quiz. Where late work is accepted without an end, the end of the term closes it.
 */
export function canStillSubmit(
  { allowed, made, closes, due }: QuizTaker,
  termEnd: Instant,
  at: Instant,
): boolean {
  if (allowed != null && made >= allowed) return false;
  return at < Math.max(closes ?? termEnd, due ?? -Infinity);
}

/** What decides whether one student may see the key of a quiz. */
export interface Disclosure {
  readonly shown: KeyShown;
  /** Attempts that the student has made. */
  readonly made: number;
  /** A grade of theirs is on record that was not returned yet. */
  readonly held: boolean;
  /** Everybody who has the quiz. */
  readonly takers: Iterable<QuizTaker>;
  readonly termEnd: Instant;
}

/**
 * Whether a student may see right answers and explanations: by default once nobody who has the quiz can still submit it, so
 * that no key reaches those who have it before them. Never before a grade of theirs was returned, nor without an answer of
 * their own.
 */
export function showsKey({ shown, made, held, takers, termEnd }: Disclosure, at: Instant): boolean {
  if (held || made === 0) return false;
  if (shown !== 'closed') return true;
  for (const taker of takers) if (canStillSubmit(taker, termEnd, at)) return false;
  return true;
}
