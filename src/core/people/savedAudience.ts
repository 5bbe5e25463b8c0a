import { needsNumbers, select, testsIn, type SelectColumn, type Selection } from '../rules/selection';
import { traitOf, type Trait } from './trait';
import { traitAbout, type ClassAbout } from './traitAbout';

/** Students by a condition, with those whom somebody added or took out by hand. */
export interface SavedAudience {
  readonly where: Selection;
  readonly added: readonly number[];
  readonly removed: readonly number[];
}

/** The cells of a trait, one for each student of a class in its order; null where it is not known. */
export type TraitCells = readonly (string | number | null)[];

export const selectColumn = (cells: TraitCells): SelectColumn => ({
  texts: cells.map((c) => (c == null ? null : String(c))),
  numbers: cells.map((c) => (typeof c === 'number' ? c : null)),
});

export interface Members {
  readonly match: readonly number[];
  /** Of whom it is not known. */
  readonly unknown: readonly number[];
}

/** Who of a class is meant. Whoever was added or taken out by hand is so whatever is known of them. */
export function audienceMembers(
  { where, added, removed }: SavedAudience,
  ids: readonly number[],
  columnOf: (key: string) => TraitCells,
): Members {
  const known = new Map<string, SelectColumn>();
  const column = (key: string) => {
    let found = known.get(key);
    if (!found) known.set(key, (found = selectColumn(columnOf(key))));
    return found;
  };
  const verdicts = select(where, column, ids.length);
  const [more, less] = [new Set(added), new Set(removed)];
  return {
    match: ids.filter((id, i) => !less.has(id) && (more.has(id) || verdicts[i] === true)),
    unknown: ids.filter((id, i) => !less.has(id) && !more.has(id) && verdicts[i] === null),
  };
}

/** The traits that a condition asks for, each once, by their keys. */
export const keysIn = (where: Selection): string[] => [...new Set(testsIn(where).map((t) => t.measure))];

const WHAT: Readonly<Record<Trait['of'], string>> = {
  measure: 'a measure',
  score: 'an assignment',
  percent: 'an assignment',
  status: 'an assignment',
  late: 'an assignment',
  opened: 'an assignment',
  flag: 'a flag',
  outcome: 'an outcome',
  group: 'a group',
  audience: 'an audience',
  this: 'the assignment of a rule',
  written: 'messages',
  section: 'a section',
  plan: 'study plans',
  unread: 'messages',
  unanswered: 'messages',
};

/** What keeps a condition from being judged in a course, in words; empty if nothing does. */
export function faultsIn(where: Selection, course: ClassAbout): string[] {
  const faults = testsIn(where).flatMap((test): string[] => {
    const trait = traitOf(test.measure);
    if (!trait) return [`There is nothing called “${test.measure}” to choose students by.`];
    const about = traitAbout(trait, course);
    if (!about && trait.of === 'this')
      return ['Only a rule that looks at one assignment at a time can ask for this.'];
    if (!about) return [`It asks for ${WHAT[trait.of]} that is not in the course any more.`];
    if (about.kind === 'choice') {
      const values = test.is === '=' ? [test.value] : test.is === 'in' ? test.value : null;
      if (!values) return test.is === 'known' ? [] : [`It compares ${WHAT[trait.of]} with a number.`];
      const gone = values.find((v) => !about.values.some((a) => a.value === v));
      return gone === undefined ? [] : [`It asks for “${gone}”, which is not in the course any more.`];
    }
    const compared = test.is === '=' ? [test.value] : test.is === 'in' ? test.value : [];
    return needsNumbers(test) || compared.every((v) => typeof v === 'number')
      ? []
      : ['It compares a number with a text.'];
  });
  return [...new Set(faults)];
}

/** Audiences that a condition rests on, by their ids. */
export const audiencesIn = (where: Selection): number[] =>
  keysIn(where).flatMap((key) => {
    const trait = traitOf(key);
    return trait?.of === 'audience' ? [trait.audience] : [];
  });

/**
 * The way by which an audience would rest on itself: ids from the one asked for back to it; null if it does not.
 *
 * @param whereOf the condition of another audience; undefined if there is none
 */
export function circleOf(
  id: number,
  where: Selection,
  whereOf: (id: number) => Selection | undefined,
): number[] | null {
  const seen = new Set<number>();
  const walk = (of: Selection, path: readonly number[]): number[] | null => {
    for (const next of audiencesIn(of)) {
      if (next === id) return [...path, next];
      if (seen.has(next)) continue;
      seen.add(next);
      const rest = whereOf(next);
      const found = rest && walk(rest, [...path, next]);
      if (found) return found;
    }
    return null;
  };
  return walk(where, [id]);
}
