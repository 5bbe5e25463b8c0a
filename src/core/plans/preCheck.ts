/** What a pre-check says of a section: known, so that nothing of it is expected; to skim; or to study. */
export const SECTION_MARKS = ['known', 'to skim', 'to study'] as const;
export type SectionMark = (typeof SECTION_MARKS)[number];

/** Shares of a pre-check from which a section is known, or to skim (common practice). */
const KNOWN_FROM = 0.8;
const SKIM_FROM = 0.5;

/**
 * How a student stands to a section by their first answers to the items of a pre-check that ask for it: known from 80 %, to
 * skim from 50 %, else to study. Null while none of them is answered.
 *
 * @param items those that ask for it; none: all do
 * @param scores of the first answers, by item, 0 to 1
 */
export function sectionMark(
  items: readonly string[],
  scores: ReadonlyMap<string, number>,
): SectionMark | null {
  const asked = items.length === 0 ? [...scores.values()] : items.flatMap((item) => scores.get(item) ?? []);
  if (asked.length === 0) return null;
  const share = asked.reduce((sum, s) => sum + s, 0) / asked.length;
  return share >= KNOWN_FROM ? 'known' : share >= SKIM_FROM ? 'to skim' : 'to study';
}
