import type { OutcomeLearner, TaughtOutcome } from './classByOutcome';

/** Students in a group for a small lesson. */
export const LESSON = { least: 3, most: 6 } as const;

/** Members cut into as few groups of at most so many as there can be, all about as large. */
export function cutEven<T>(members: readonly T[], most: number): T[][] {
  const parts = Math.ceil(members.length / most);
  return Array.from({ length: parts }, (_, i) =>
    members.slice(Math.round((i * members.length) / parts), Math.round(((i + 1) * members.length) / parts)),
  );
}

/**
 * What a student needs next: of the outcomes they have not reached yet, the weakest of those whose prerequisites they
 * have. A prerequisite is lacking where it is "not yet" itself; too little data is no reason to hold somebody back. Null
 * for nothing. What has parts is taught by them.
 */
export function nextToLearn(student: OutcomeLearner, outcomes: readonly TaughtOutcome[]): number | null {
  const parents = new Set(outcomes.map((o) => o.parentId));
  const isBehind = (id: number) => student.outcomes.get(id)?.level === 'not yet';
  let weakest: { id: number; mean: number } | null = null;
  for (const { id, before } of outcomes) {
    if (parents.has(id) || !isBehind(id) || before.some(isBehind)) continue;
    const { mean } = student.outcomes.get(id)!;
    if (!weakest || mean < weakest.mean) weakest = { id, mean };
  }
  return weakest?.id ?? null;
}

export interface LessonGroup<L> {
  readonly outcome: number;
  readonly members: readonly L[];
}

/**
 * Groups of three to six for a small lesson, by what each student needs next, those alike in how far they are together;
 * the outcome that most need comes first. Who is in no group needs something that fewer than three do.
 */
export function lessonGroups<L extends OutcomeLearner>(
  outcomes: readonly TaughtOutcome[],
  learners: readonly L[],
): { readonly groups: readonly LessonGroup<L>[]; readonly alone: readonly LessonGroup<L>[] } {
  const need = new Map<number, L[]>();
  for (const learner of learners) {
    const id = nextToLearn(learner, outcomes);
    if (id != null) need.set(id, [...(need.get(id) ?? []), learner]);
  }
  const all = [...need]
    .map(([outcome, members]) => ({
      outcome,
      members: [...members].sort(
        (a, b) => a.outcomes.get(outcome)!.mean - b.outcomes.get(outcome)!.mean || a.id - b.id,
      ),
    }))
    .sort((a, b) => b.members.length - a.members.length || a.outcome - b.outcome);
  return {
    groups: all
      .filter((g) => g.members.length >= LESSON.least)
      .flatMap(({ outcome, members }) =>
        cutEven(members, LESSON.most).map((part) => ({ outcome, members: part })),
      ),
    alone: all.filter((g) => g.members.length < LESSON.least),
  };
}

export interface LearningPair<L> {
  readonly outcome: number;
  /** Secure, and nothing else is the matter with them. */
  readonly helper: L;
  readonly helped: L;
}

/**
 * Pairs of somebody secure and steady beside somebody who is not there yet, by outcome: whoever is furthest behind with
 * what they need next is beside whoever is surest of it. Nobody is in two pairs.
 *
 * @param steady whether nothing is the matter with a student
 */
export function learningPairs<L extends OutcomeLearner>(
  outcomes: readonly TaughtOutcome[],
  learners: readonly L[],
  steady: (learner: L) => boolean,
): LearningPair<L>[] {
  const free = new Set(learners.filter(steady));
  const behind = learners
    .flatMap((helped) => {
      const outcome = nextToLearn(helped, outcomes);
      return outcome == null ? [] : [{ helped, outcome, mean: helped.outcomes.get(outcome)!.mean }];
    })
    .sort((a, b) => a.mean - b.mean || a.helped.id - b.helped.id);
  // Who needs help with something helps nobody with something else.
  for (const { helped } of behind) free.delete(helped);
  return behind.flatMap(({ helped, outcome }) => {
    let helper: L | null = null;
    for (const l of free) {
      const of = l.outcomes.get(outcome);
      if (of?.level === 'secure' && (!helper || of.low > helper.outcomes.get(outcome)!.low)) helper = l;
    }
    if (!helper) return [];
    free.delete(helper);
    return [{ outcome, helper, helped }];
  });
}
