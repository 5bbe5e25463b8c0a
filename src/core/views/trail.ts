import type { Instant, Seconds } from '../units';

/** One time that a student answered an item. */
export interface TrailStep {
  readonly attempt: number;
  readonly answer: string;
  /** What it counts, 0 to 1; null while it is not scored. */
  readonly score: number | null;
  readonly at: Instant | null;
  readonly seconds: Seconds | null;
  readonly hints: number;
  /** It came faster than the item can be read. */
  readonly tooQuick: boolean;
}

/** What a student answered to an item, step by step. */
export interface TrailView {
  readonly item: string;
  readonly stem: string | null;
  readonly name: string;
  readonly steps: readonly TrailStep[];
}
