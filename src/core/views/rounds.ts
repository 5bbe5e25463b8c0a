import { FLAG_KINDS } from '../flags/indicators';
import type { LocalDate, Percent } from '../units';
import type { Cut } from '../weekly/shortOfTime';
import type { BriefView } from './brief';
import type { FeedNotice } from './feeds';
import type { FollowUpLine } from './followUp';
import type { MarkView } from './mark';
import type { ReasonView } from './reason';
import type { ViewFrame } from './frame';
import type { WordLine } from './rules';

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
  /** Who needs something but is outside of the group that is looked at. */
  readonly elsewhere: number;
  /** Where the data are too old for flags about logins and time: since when, in words; else null. */
  readonly stale: string | null;
  /** What that group is called; null for the whole course. */
  readonly group: string | null;
  readonly newOnes: number;
  readonly lastRound: LocalDate | null;
  readonly filter: RoundFilter;
  readonly rows: readonly QueueRow[];
  readonly selected: number | null;
  /** Whether a reload, or another device, comes back to this filter and student. */
  readonly isKept: boolean;
  /** What is due to be looked at again, the oldest first, with what has happened since. */
  readonly followUps: { readonly lines: readonly FollowUpLine[]; readonly more: number };
  /** What the rules have to say to the instructor, and how many of their messages wait for a yes. */
  readonly words: readonly WordLine[];
  readonly waitingForYes: number;
  /** Files that come by themselves: which somebody has to look at, and what did not come. */
  readonly feeds: readonly FeedNotice[];
  /** What fits into the minutes that the viewer has, if they said how many. */
  readonly short:
    | (Cut & {
        readonly asked: number;
        /** Those whom it names. */
        readonly rows: readonly QueueRow[];
        readonly followUps: readonly {
          readonly actId: number;
          readonly name: string;
          readonly answered: boolean;
        }[];
      })
    | null;
  readonly brief: BriefView | null;
  /** When the first of the answered students comes back; null if nobody does. */
  readonly nextReturn: LocalDate | null;
}
