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
