import type { Instant, Minutes } from '../units';

/** One column of the term ribbon. */
export interface RibbonWeek {
  readonly week: number;
  /** Class median of time on task; null for weeks to come. */
  readonly medianMinutes: Minutes | null;
  readonly isBreak: boolean;
  /** Works that fall due in the week, and where in it (0 to 1). */
  readonly due: readonly { readonly title: string; readonly place: number }[];
  readonly from: Instant;
  readonly until: Instant;
}
