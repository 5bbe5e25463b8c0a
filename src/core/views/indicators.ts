import type { FlagKind } from '../flags/indicators';
import type { FlagLevel } from '../flags/level';

/** Whom an indicator would find with some thresholds. */
export interface IndicatorPreview {
  readonly kind: FlagKind;
  /** Students at the end of each week of the term so far, the last as of now. */
  readonly weeks: readonly { readonly watch: number; readonly act: number }[];
  /** Whom it finds now. */
  readonly now: readonly { readonly id: number; readonly name: string; readonly level: FlagLevel }[];
}
