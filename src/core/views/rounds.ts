import { FLAG_KINDS } from '../flags/indicators';
import type { LocalDate, Percent } from '../units';
import type { BriefView } from './brief';
import type { MarkView } from './mark';
import type { ReasonView } from './reason';
import type { ViewFrame } from './frame';

/** What the list shows: who needs something, for one reason or any; who was answered; or the whole course. */
export const ROUND_FILTERS = ['all', ...FLAG_KINDS, 'answered', 'everyone'] as const;
export type RoundFilter = (typeof ROUND_FILTERS)[number];
export const isRoundFilter = (text: string): text is RoundFilter =>
  (ROUND_FILTERS as readonly string[]).includes(text);

export interface QueueRow {
  readonly enrolmentId: number;
  readonly name: string;
  readonly section: string | null;
  readonly level: 'act' | 'watch' | 'steady';
  readonly reasons: readonly ReasonView[];
  /** A flag opened since the last round before today. */
  readonly isNew: boolean;
  readonly standing: Percent | null;
  readonly mark: MarkView | null;
}

export interface RoundsView extends ViewFrame {
  readonly today: LocalDate;
  readonly students: number;
  readonly counts: Readonly<Record<RoundFilter, number>>;
  readonly newOnes: number;
  readonly lastRound: LocalDate | null;
  readonly filter: RoundFilter;
  readonly rows: readonly QueueRow[];
  readonly selected: number | null;
  /** Whether a reload, or another device, comes back to this filter and student. */
  readonly isKept: boolean;
  readonly brief: BriefView | null;
  /** When the first of the answered students comes back; null if nobody does. */
  readonly nextReturn: LocalDate | null;
}
