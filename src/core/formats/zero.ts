/**
 * Whether a text, or any text or name inside a list or record, holds a zero character (U+0000). Nothing that people
 * write does, and PostgreSQL keeps none (its manual, 8.3 Character Types), so it is refused at the door.
 */
export const holdsZero = (value: unknown): boolean =>
  typeof value === 'string'
    ? value.includes('\0')
    : typeof value === 'object' &&
      value !== null &&
      Object.entries(value).some(([key, inner]) => key.includes('\0') || holdsZero(inner));
