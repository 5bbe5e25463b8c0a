import { no, ok, type Result } from '../result';

/** Deepest nesting of lists and records in text from outside: more is nobody's data, and would only exhaust who reads it. */
export const DEEPEST_JSON = 100;

/** Lists and records that one text may hold: each costs far more than the two characters that it takes. */
const MOST_INSIDE = 5_000_000;

/**
 * Reads JSON (RFC 8259) from outside. Refused is what is no JSON, and what is nested deeper than 100 levels or is made of
 * too many pieces, which is found by one pass over the text before anything is built of it.
 */
export function parseJson(text: string): Result<unknown> {
  const { depth, pieces, hollow } = measure(text);
  if (depth > DEEPEST_JSON) return no(`is nested deeper than ${DEEPEST_JSON} levels`);
  if (hollow) return no('holds hardly anything but brackets');
  if (pieces > MOST_INSIDE)
    return no('holds more than 5,000,000 lists and records; cut it into several files');
  try {
    return ok(JSON.parse(text));
  } catch (error) {
    return no(`is not JSON: ${error instanceof Error ? error.message.slice(0, 120) : 'cannot be read'}`);
  }
}

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [34, 92, 91, 93, 123, 125];

/** From so many lists and records on, each holds so many characters at least: a real file has three times as many. */
const [MANY, LEAST_EACH] = [100_000, 12];

/** How deep lists and records stand in each other, and how many there are, up to the limits; brackets inside of strings are none. */
function measure(text: string): { depth: number; pieces: number; hollow: boolean } {
  let depth = 0;
  let pieces = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (quoted) {
      if (code === BACKSLASH) i++;
      else if (code === QUOTE) quoted = false;
    } else if (code === QUOTE) quoted = true;
    else if (code === OPEN_LIST || code === OPEN) {
      depth++;
      pieces++;
      const hollow = pieces > MANY && i < pieces * LEAST_EACH;
      if (hollow || depth > DEEPEST_JSON || pieces > MOST_INSIDE) return { depth, pieces, hollow };
    } else if (code === CLOSE_LIST || code === CLOSE) depth--;
  }
  return { depth, pieces, hollow: false };
}
