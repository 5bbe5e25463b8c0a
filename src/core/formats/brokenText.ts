/** A zero character, or half of a pair that writes one character (a surrogate on its own). */
const BROKEN = /[\0\p{Surrogate}]/u;

/** What is said of it. */
export const BROKEN_TEXT = 'holds a zero character, or half of a character';

/**
 * Whether a text, or any text or name inside a list or record, holds a zero character (U+0000) or a surrogate without its
 * other half. Nothing that people write does, and PostgreSQL keeps neither (its manual, 8.3 Character Types and 8.14 JSON
 * Types), so it is refused at the door.
 */
export const holdsBroken = (value: unknown): boolean =>
  typeof value === 'string'
    ? BROKEN.test(value)
    : typeof value === 'object' &&
      value !== null &&
      Object.entries(value).some(([key, inner]) => BROKEN.test(key) || holdsBroken(inner));
