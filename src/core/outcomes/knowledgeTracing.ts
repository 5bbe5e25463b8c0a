/** What knowledge tracing takes for granted of an item or an outcome. */
export interface TracingOptions {
  /** Known before the first answer. */
  readonly known: number;
  /** Learnt from one answer to the next. */
  readonly learn: number;
  /** Wrong though known. */
  readonly slip: number;
  /** Right though not known. */
  readonly guess: number;
}

/** Assumptions for an item with four choices (the guess); the others are usual starting values, common practice. */
export const USUAL_TRACING: TracingOptions = { known: 0.4, learn: 0.1, slip: 0.1, guess: 0.25 };

/**
 * How probable it is that something is known after each of a row of answers, right or wrong: what the answer says, then what is
 * learnt from it (Bayesian knowledge tracing; Corbett & Anderson 1995).
 */
export function knowledgeAfter(
  answers: readonly boolean[],
  { known, learn, slip, guess }: TracingOptions = USUAL_TRACING,
): number[] {
  let p = known;
  return answers.map((right) => {
    const [ifKnown, ifNot] = right ? [1 - slip, guess] : [slip, 1 - guess];
    const said = (p * ifKnown) / (p * ifKnown + (1 - p) * ifNot);
    p = said + (1 - said) * learn;
    return p;
  });
}

/** Steps from which on something can be said of a row of them. */
const LEAST_STEPS = 2;

/**
 * How probable it is that something is known by now, after scored steps; null for too few. A step that came too quickly
 * says nothing.
 */
export function knownNow(
  steps: readonly { readonly score: number | null; readonly tooQuick: boolean }[],
): number | null {
  const scored = steps.filter((s) => s.score != null && !s.tooQuick);
  return scored.length < LEAST_STEPS ? null : knowledgeAfter(scored.map((s) => s.score! >= 1)).at(-1)!;
}
