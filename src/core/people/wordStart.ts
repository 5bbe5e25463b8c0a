import { plainWords } from './plainText';

/**
 * How well a text is found by what was typed: 0 unless each word typed begins a word of the text; 1 if the text begins
 * with all of it, less the later the first of the words stands.
 */
export function wordStart(text: string, typed: string): number {
  const words = plainWords(text);
  const asked = plainWords(typed);
  if (asked.length === 0) return 1;
  const places = asked.map((a) => words.findIndex((w) => w.startsWith(a)));
  if (places.some((p) => p < 0)) return 0;
  return 1 / (1 + Math.min(...places));
}
