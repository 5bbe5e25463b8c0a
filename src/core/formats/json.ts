import { no, ok, type Result } from '../result';

/** Deepest nesting of lists and records in text from outside: more is nobody's data, and would only exhaust who reads it. */
export const DEEPEST_JSON = 100;

/**
 * Reads JSON (RFC 8259) from outside. Refused is what is no JSON, and what is nested deeper than 100 levels, which is
 * found by one pass over the text before anything is built of it.
 */
export function parseJson(text: string): Result<unknown> {
  if (isTooDeep(text)) return no(`is nested deeper than ${DEEPEST_JSON} levels`);
  try {
    return ok(JSON.parse(text));
  } catch (error) {
    return no(error instanceof Error ? error.message.slice(0, 120) : 'cannot be read');
  }
}

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [34, 92, 91, 93, 123, 125];

/** Whether lists and records of a text stand in each other too deep; brackets inside of strings are none. */
export function isTooDeep(text: string, deepest = DEEPEST_JSON): boolean {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (quoted) {
      if (code === BACKSLASH) i++;
      else if (code === QUOTE) quoted = false;
    } else if (code === QUOTE) quoted = true;
    else if (code === OPEN_LIST || code === OPEN) {
      if (++depth > deepest) return true;
    } else if (code === CLOSE_LIST || code === CLOSE) depth--;
  }
  return false;
}
