import { median } from '../statistics/quantile';
import { MASTERY_LEVELS, type Mastery, type MasteryLevel } from './mastery';

/** An outcome with what it is part of, and what comes before it. */
export interface TaughtOutcome {
  readonly id: number;
  readonly title: string;
  readonly parentId: number | null;
  readonly before: readonly number[];
}

/** A student with how far they are with each outcome. */
export interface OutcomeLearner {
  readonly id: number;
  readonly outcomes: ReadonlyMap<number, Pick<Mastery, 'mean' | 'low' | 'level' | 'askedAt'>>;
}

/** Where a class stands with an outcome. */
export interface OutcomeStanding extends TaughtOutcome {
  readonly counts: Readonly<Record<MasteryLevel, number>>;
  /** Median estimate of those with enough data, 0 to 1; null for nobody. */
  readonly middle: number | null;
  /** Whether anybody has been asked about it yet. */
  readonly taught: boolean;
  /** What comes before it, with how many of those who are not there yet are not there with that either; only where some are. */
  readonly weakBefore: readonly { readonly id: number; readonly students: number }[];
}

/**
 * Where a class stands with each outcome: the worst first among what was asked about by now (the lowest median estimate
 * of those with enough data), then what too little is known of, then what nobody was asked about.
 */
export function classByOutcome(
  outcomes: readonly TaughtOutcome[],
  learners: readonly OutcomeLearner[],
): OutcomeStanding[] {
  const levelOf = (l: OutcomeLearner, id: number): MasteryLevel =>
    l.outcomes.get(id)?.level ?? 'too little data';
  const found = outcomes.map((o): OutcomeStanding => {
    const judged = learners.filter((l) => levelOf(l, o.id) !== 'too little data');
    const counts = Object.fromEntries(
      MASTERY_LEVELS.map((level) => [level, learners.filter((l) => levelOf(l, o.id) === level).length]),
    ) as Record<MasteryLevel, number>;
    const behind = judged.filter((l) => levelOf(l, o.id) === 'not yet');
    return {
      ...o,
      counts,
      middle: judged.length === 0 ? null : median(judged.map((l) => l.outcomes.get(o.id)!.mean)),
      taught: learners.some((l) => l.outcomes.get(o.id)?.askedAt != null),
      weakBefore: o.before
        .map((id) => ({ id, students: behind.filter((l) => levelOf(l, id) === 'not yet').length }))
        .filter((b) => b.students > 0),
    };
  });
  const rank = (o: OutcomeStanding) => (o.middle != null ? 0 : o.taught ? 1 : 2);
  return found.sort((a, b) => rank(a) - rank(b) || (a.middle ?? 0) - (b.middle ?? 0));
}
