import { oneDigit, whole } from '../format';
import { traitOf } from '../people/trait';
import { traitAbout, type ClassAbout } from '../people/traitAbout';
import type { Fact } from './lookAt';

/** The numbers that an occasion rested on, as they stood at that moment: "a score 45 % on it". */
export function factWords(facts: readonly Fact[], course: ClassAbout): string[] {
  return facts.flatMap(({ key, value }) => {
    const trait = traitOf(key);
    const about = trait && traitAbout(trait, { ...course, ofWork: true });
    if (!about || value == null) return [];
    if (about.kind === 'choice') {
      const found = about.values.find((v) => v.value === value);
      // Of the assignment at hand the word alone suffices: "not begun".
      return found ? [trait.of === 'this' ? found.label : found.phrase] : [];
    }
    const said = typeof value === 'number' ? (value < 100 ? oneDigit(value) : whole(value)) : value;
    return [`${about.noun.replace(/^a /, '')} ${said}${about.unit}${about.span}`];
  });
}
