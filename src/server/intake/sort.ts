import { classifyInSteps, type Changes, type ClassifyOptions, type Placed } from '@/core/formats/classify';
import { withValue, type RejectedRow } from '@/core/formats/table';
import type { Steps } from '@/core/steps';
import { inTurns } from '../base/turns';

/** Rows with other records where these are others; a long file keeps nobody waiting. */
export const changed = <T>(
  rows: readonly Placed<T>[],
  to: (value: T, row: Placed<T>) => T,
): Promise<Placed<T>[]> => {
  function* steps(): Steps<Placed<T>[]> {
    const all: Placed<T>[] = [];
    for (const [i, row] of rows.entries()) {
      if (i % STEP === STEP - 1) yield;
      const value = to(row.value, row);
      all.push(value === row.value ? row : withValue(row, value));
    }
    return all;
  }
  return inTurns(steps());
};

/** Rows between two pauses. */
const STEP = 2000;

/** Sorts the rows of a file (see `classify`); a long one keeps nobody waiting. */
export const sort = <T>(
  rows: readonly Placed<T>[],
  rejected: readonly RejectedRow[],
  options: ClassifyOptions<T>,
): Promise<Changes<T>> => inTurns(classifyInSteps(rows, rejected, options));
