/** A zero character, or half of a pair that writes one character (a surrogate on its own). */
const BROKEN = /[\0\p{Surrogate}]/u;

/** What is said of it. */
export const BROKEN_TEXT = 'holds a zero character, or half of a character';

/** A text without what the database can't hold: zero characters go, half of a character becomes U+FFFD. */
export const whole = (text: string): string => text.replaceAll('\0', '').replace(/\p{Surrogate}/gu, '\uFFFD');

/**
 * Whether a text, or any text or name inside a list or record, holds a zero character (U+0000) or a surrogate without its
 * other half. Nothing that people write does, and PostgreSQL keeps neither (its manual, 8.3 Character Types and 8.14 JSON
 * Types), so it is refused at the door. However deep the value, and even where it holds itself: each part is looked at
 * once, and not by calls inside of calls.
 */
export function holdsBroken(value: unknown): boolean {
  const open: unknown[] = [value];
  const seen = new Set<unknown>();
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next === 'string') {
      if (BROKEN.test(next)) return true;
    } else if (typeof next === 'object' && next !== null && !seen.has(next)) {
      seen.add(next);
      const list = Array.isArray(next);
      for (const [key, inner] of Object.entries(next)) {
        if (!list && BROKEN.test(key)) return true;
        open.push(inner);
      }
    }
  }
  return false;
}
