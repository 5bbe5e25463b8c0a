/** True, false, or not known: what is not known is neither. */
export type Verdict = boolean | null;

/** Judges one student after the other, by their place. */
export type Judge = (row: number) => Verdict;

/**
 * Joins judges by Kleene's strong three-valued logic (Introduction to Metamathematics, 1952, section 64): of `all` one
 * false makes false, else one unknown makes unknown; `any` is its mirror image. Of nothing, `all` is true and `any`
 * false. Nobody is judged by more parts than it takes.
 */
export function joined(how: 'all' | 'any', parts: readonly Judge[]): Judge {
  // One part suffices for it: true of `any`, false of `all`.
  const strong = how === 'any';
  const count = parts.length;
  return (row) => {
    let known = true;
    for (let p = 0; p < count; p++) {
      const verdict = parts[p]!(row);
      if (verdict === strong) return strong;
      if (verdict === null) known = false;
    }
    return known ? !strong : null;
  };
}

/** The contrary; of what is not known it is not known. */
export const contrary =
  (judge: Judge): Judge =>
  (row) => {
    const verdict = judge(row);
    return verdict === null ? null : !verdict;
  };

/** A judge who has judged already. */
export const judgedBefore =
  (verdicts: readonly Verdict[]): Judge =>
  (row) =>
    verdicts[row] ?? null;

/** The verdicts of a judge about so many, in their order. */
export function verdictsOf(judge: Judge, rows: number): Verdict[] {
  const verdicts = new Array<Verdict>(rows);
  for (let row = 0; row < rows; row++) verdicts[row] = judge(row);
  return verdicts;
}
