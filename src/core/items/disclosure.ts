import type { Instant } from '../units';

/** What decides whether somebody may see the key of a quiz. */
export interface Disclosure {
  readonly due: Instant | null;
  readonly closes: Instant | null;
  /** Attempts that they may make; null for as many as they like. */
  readonly allowed: number | null;
  readonly made: number;
  /** A grade is on record that was not returned yet. */
  readonly held: boolean;
}

/**
 * Whether a student may see right answers and explanations: once the quiz is closed to them (where it never closes, once it
 * was due), or once their last attempt is made; never before a grade that is there was returned.
 */
export function showsKey({ due, closes, allowed, made, held }: Disclosure, at: Instant): boolean {
  if (held || made === 0) return false;
  if (allowed != null && made >= allowed) return true;
  const end = closes ?? due;
  return end != null && end <= at;
}
