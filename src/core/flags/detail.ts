import type { Minutes, Percent } from '../units';

/** The numbers of a flag, by kind: what its reason says. */
export type FlagDetail =
  | { kind: 'not seen'; silence: number; usualGap: number | null; longestGap: number | null; never: boolean }
  | { kind: 'behind'; missing: readonly string[]; expected: number }
  | { kind: 'low standing'; standing: Percent; limit: Percent; highestPossible: Percent | null }
  | {
      kind: 'slipping';
      perWeek: number;
      relativePerWeek: number;
      works: number;
      p: number;
      standing: Percent | null;
      before: Percent | null;
    }
  | { kind: 'low time'; minutes: Minutes; classMedian: Minutes; days: number }
  | {
      kind: 'effort without progress';
      minutes: Minutes;
      classMedian: Minutes;
      days: number;
      standing: Percent;
      /** The middle half of the standings of those with about as much time; not in flags from before it was kept. */
      usual?: readonly [Percent, Percent] | null;
    };
