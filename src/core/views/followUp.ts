import type { ActKind } from '../acts/act';
import type { Happened } from '../acts/happened';
import type { LocalDate } from '../units';

/** A follow-up that is due: what was done, and what has happened since. */
export interface FollowUpLine {
  readonly actId: number;
  readonly enrolmentId: number;
  readonly name: string;
  readonly kind: ActKind;
  readonly by: string;
  readonly own: boolean;
  /** The day of the act, and the day on which to look again. */
  readonly on: LocalDate;
  readonly due: LocalDate;
  /** What it was about: why they were written to, what was noted or agreed. */
  readonly about: string;
  readonly agreement: {
    readonly id: number;
    readonly goal: string;
    readonly step: string;
    readonly said: string;
  } | null;
  /** What the student answered last since then. */
  readonly answered: string | null;
  readonly happened: Happened;
}
