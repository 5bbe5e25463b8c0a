/** A name cut into its parts: “Family, Given”, or else the last word is the family name. One word is both. */
export function partOfName(text: string, part: 'given' | 'family'): string {
  const comma = text.indexOf(',');
  if (comma >= 0)
    return (part === 'family' ? text.slice(0, comma) : text.slice(comma + 1)).trim().replace(/\s+/g, ' ');
  const words = text.trim().split(/\s+/);
  return part === 'family' ? words.at(-1)! : words.slice(0, -1).join(' ') || words[0]!;
}
