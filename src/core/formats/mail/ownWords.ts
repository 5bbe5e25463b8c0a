/** "On 25 Nov 2026 at 10:00, Ines Calloway wrote:" and its like, which mail programs set over what they quote. */
const INTRO =
  /^(?:on\b.{4,200}\bwrote:|.{0,80}\bschrieb\b.{0,120}:|le\b.{4,200}\ba écrit\s*:|em\b.{4,200}\bescreveu:)$/i;
/** Longer lines are no introduction. */
const MOST_INTRO = 400;
const isIntro = (line: string): boolean => line.length <= MOST_INTRO && INTRO.test(line.trim());
const ORIGINAL = /^-{2,}\s*(?:original message|forwarded message)\s*-{2,}$/i;

/**
 * What somebody wrote themselves in an answer by e-mail: without what they quote, and without the signature below
 * "-- ". Where nothing would be left, all of it. Its time grows with the length of the text and no faster.
 */
export function ownWords(text: string): string {
  const lines = text.replaceAll('\r\n', '\n').split('\n');
  // From which line on there is nothing but quotes and empty lines.
  let quotesFrom = lines.length;
  while (quotesFrom > 0 && /^(?:>|\s*$)/.test(lines[quotesFrom - 1]!)) quotesFrom--;
  const own: string[] = [];
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i]!;
    if (line === '-- ' || ORIGINAL.test(line.trim())) break;
    // An introduction may be broken over two lines.
    const next = lines[i + 1] ?? '';
    const isOne = isIntro(line);
    const isTwo = !isOne && isIntro(`${line} ${next}`) && /^>|^$/.test(lines[i + 2] ?? '');
    if (isOne || isTwo) {
      if (quotesFrom <= i + (isTwo ? 2 : 1)) break;
      if (isTwo) i++;
      continue;
    }
    if (!line.startsWith('>')) own.push(line);
  }
  const words = own
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim();
  return words === '' ? text.trim() : words;
}
