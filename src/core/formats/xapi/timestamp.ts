import { no, type Result } from '../../result';
import type { Instant } from '../../units';
import { ANY_YEAR, parseInstant } from '../../calendar/instant';

/**
 * Reads an instant of a statement or of a request about statements: ISO 8601 with a zone, of any year. The offset
 * -00:00 is refused (xAPI 1.0.3, part two, 4.5: RFC 3339 writes by it that no zone is known).
 */
export function parseTimestamp(text: string): Result<Instant> {
  if (/[T ]\d\d:.*-00(:?00)?$/i.test(text)) return no('has the offset -00:00, which means no zone');
  return parseInstant(text, ANY_YEAR);
}

/** What is wrong with an instant, to stand behind the name of its property; null if nothing is. */
export function instantFault(text: string): string | null {
  const read = parseTimestamp(text);
  if (read.ok) return null;
  return read.reason.startsWith('“') ? `: ${read.reason}` : ` ${read.reason}`;
}

/** The instant of a statement that was checked, in milliseconds. */
export function instantOf(text: string): Instant {
  const read = parseTimestamp(text);
  if (!read.ok) throw new Error('a statement was not checked');
  return read.value;
}
