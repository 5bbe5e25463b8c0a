import type { FlagKind } from '../flags/indicators';
import type { FlagLevel } from '../flags/level';
import type { LocalDate } from '../units';

/** A flag as it is shown: its sentence, and since when it stands. */
export interface ReasonView {
  /** Of the flag: the same from evaluation to evaluation. */
  readonly id: number;
  readonly kind: FlagKind;
  readonly level: FlagLevel;
  readonly head: string;
  readonly rest: string;
  readonly openedOn: LocalDate;
  /** Back inside the threshold since that day, waiting for a second evaluation. */
  readonly insideSince: LocalDate | null;
  readonly closedOn: LocalDate | null;
}
