/** "On 25 Nov 2026 at 10:00, Ines Calloway wrote:" and its like, which mail programs set over what they quote. */
const INTRO =
  /^(?:on\b.{4,200}\bwrote:|.{0,80}\bschrieb\b.{0,120}:|le\b.{4,200}\ba écrit\s*:|em\b.{4,200}\bescreveu:)$/i;
const ORIGINAL = /^-{2,}\s*(?:original message|forwarded message)\s*-{2,}$/i;

/**
 * What somebody wrote themselves in an answer by e-mail: without what they quote, and without the signature below
 * "-- ". Where nothing would be left, all of it.
 */
export function ownWords(text: string): string {
  const lines = text.replaceAll('\r\n', '\n').split('\n');
  const own: string[] = [];
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i]!;
    if (line === '-- ' || ORIGINAL.test(line.trim())) break;
    // An introduction may be broken over two lines.
    const two = `${line} ${lines[i + 1] ?? ''}`.trim();
    if (INTRO.test(line.trim()) || (INTRO.test(two) && /^>|^$/.test(lines[i + 2] ?? ''))) {
      if (
        lines
          .slice(i + 1)
          .every((l) => l.trim() === '' || l.startsWith('>') || l === two.slice(line.length + 1))
      )
        break;
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
