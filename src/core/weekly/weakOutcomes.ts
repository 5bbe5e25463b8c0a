import { cutEven } from '../outcomes/lessons';
import type { MasteryLevel } from '../outcomes/mastery';

/** A student with how far they are with each outcome. */
export interface Learner {
  readonly outcomes: ReadonlyMap<number, MasteryLevel>;
}

/** An outcome that is "not yet" for some, of those of whom enough is known. */
export interface WeakOutcome<L> {
  readonly id: number;
  readonly title: string;
  readonly behind: readonly L[];
  readonly known: number;
}

/** From this share of the class on, an outcome is a matter for the whole class. */
export const OUTCOME_SHARE = 0.25;

/** Outcomes that a good part of those with enough evidence have not yet reached, the weakest first. */
export function weakOutcomes<L extends Learner>(
  outcomes: readonly { readonly id: number; readonly title: string }[],
  all: readonly L[],
  least = OUTCOME_SHARE,
): WeakOutcome<L>[] {
  return outcomes
    .map((o) => {
      const known = all.filter((s) => (s.outcomes.get(o.id) ?? 'too little data') !== 'too little data');
      return {
        ...o,
        behind: known.filter((s) => s.outcomes.get(o.id) === 'not yet'),
        known: known.length,
      };
    })
    .filter((o) => o.behind.length > 0 && o.behind.length / o.known >= least)
    .sort((a, b) => b.behind.length / b.known - a.behind.length / a.known);
}

/** Students who make a group, at least and at most. */
const GROUP = { least: 2, most: 6 };

/**
 * Groups for a small lesson: each student is in the group of the first of the weak outcomes that they have not yet reached.
 * Nobody is alone in one; a group that is too large is cut into equal ones.
 */
export function groupsToTeach<L extends Learner>(
  weak: readonly WeakOutcome<L>[],
): { readonly outcome: string; readonly members: readonly L[] }[] {
  const taken = new Set<L>();
  return weak.flatMap(({ title, behind }) => {
    const free = behind.filter((s) => !taken.has(s));
    if (free.length < GROUP.least) return [];
    for (const s of free) taken.add(s);
    return cutEven(free, GROUP.most).map((members) => ({ outcome: title, members }));
  });
}
