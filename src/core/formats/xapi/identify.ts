import type { RejectedRow } from '../table';
import type { Steps } from '../../steps';
import { uuidFromHash } from '../uuid';
import { contentOf, sameStatement } from './compare';
import { asItStood, type ReadStatements } from './file';
import type { Statement } from './statement';
import { instantOf } from './timestamp';

/** A statement under its id, in lower case. */
export type Identified = Statement & { readonly id: string };

export interface PlacedStatement {
  readonly line: number;
  readonly value: Identified;
}

export interface IdentifiedStatements {
  /** Each id once, in the order of the file. */
  readonly rows: readonly PlacedStatement[];
  /** Statements that stand in the file once more. */
  readonly repeated: number;
  readonly rejected: readonly RejectedRow[];
}

/** A statement that cannot go in, as it is reported. */
export const refusedStatement = ({ line, value }: PlacedStatement, reason: string): RejectedRow => ({
  line,
  field: 'id',
  reason,
  cells: [asItStood(JSON.stringify(value))],
});

/** Statements between two pauses. */
const STEP = 100;

/**
 * Gives every statement of a file an id: its own, or one made of what it says and when, so that the same file again
 * brings nothing twice. An id that stands there again with other content is rejected.
 *
 * @param sha1 SHA-1 in hexadecimal, which the caller has at hand
 */
export function* identifyInSteps(
  { rows, rejected }: ReadStatements,
  sha1: (text: string) => string,
): Steps<IdentifiedStatements> {
  const known = new Map<string, PlacedStatement>();
  const refused: RejectedRow[] = [...rejected];
  let repeated = 0;
  for (const [i, { line, value }] of rows.entries()) {
    if (i % STEP === 0) yield;
    const at = value.timestamp == null ? '' : instantOf(value.timestamp);
    const id = value.id?.toLowerCase() ?? uuidFromHash(sha1(`${at} ${contentOf(value)}`));
    const placed = { line, value: { ...value, id } };
    const twin = known.get(id);
    if (!twin) known.set(id, placed);
    else if (sameStatement(twin.value, value)) repeated++;
    else
      refused.push(refusedStatement(placed, `the id ${id} stands in line ${twin.line} with other content`));
  }
  return { rows: [...known.values()], repeated, rejected: refused.sort((a, b) => a.line - b.line) };
}
