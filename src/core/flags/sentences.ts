import { MEASURES } from '../measures/registry';
import type { FlagKind, LimitedKind } from './indicators';

/** What an indicator asks, in one sentence with its numbers by their keys: `{behind.watch}`. */
export interface IndicatorSentence {
  readonly kind: FlagKind;
  readonly title: string;
  readonly sentence: string;
  readonly means: string;
  /** In the words of statistics, behind the “i”. */
  readonly exactly?: string;
}

/** The six indicators as sentences, in the order in which they are listed. */
export const INDICATOR_SENTENCES: readonly IndicatorSentence[] = [
  {
    kind: 'not seen',
    title: 'Not seen',
    sentence:
      'Watch whoever has not logged in for {notSeen.watchDays} teaching days, and act from {notSeen.actDays}; only where that is also longer than {notSeen.ownQuantile} % of their own past gaps.',
    means: 'Somebody who comes once a week is not missed after five days; somebody who comes every day is.',
  },
  {
    kind: 'behind',
    title: 'Behind',
    sentence: 'Watch from {behind.watch} missing assignments, and act from {behind.act}.',
    means: MEASURES.missing.means,
  },
  {
    kind: 'low standing',
    title: 'Low standing',
    sentence:
      'Watch under a standing of {lowStanding.watch} %, and act under {lowStanding.act} %, once {lowStanding.leastWorks} assignments have been graded.',
    means: MEASURES.standing.means,
  },
  {
    kind: 'slipping',
    title: 'Slipping',
    sentence:
      'Watch from {slipping.watch} points a week lost against the class, and act from {slipping.act}, where that could be chance in at most {slipping.maxP} % of cases.',
    means: 'At least four graded assignments, each held against the class median of that assignment.',
    exactly:
      'The Theil-Sen slope of the student’s scores less the class median of each assignment; the chance is the p of a Mann-Kendall test for a trend.',
  },
  {
    kind: 'low time',
    title: 'Low time on task',
    sentence:
      'Over {lowTime.windowDays} days, watch up to {lowTime.watch} % of the class’s median time, and act up to {lowTime.act} %; not asked while that median is under {lowTime.leastMedianMinutes} minutes.',
    means: 'Nor of whoever joined within these days.',
  },
  {
    kind: 'effort without progress',
    title: 'Effort without progress',
    sentence:
      'Over {effort.windowDays} days, watch whoever has at least the class’s median time, and a standing that is low beside others with as much time; act where the standing is low by itself.',
    means: `This student needs another way in, not more of the same. ${MEASURES.effortShortfall.means}`,
  },
];

/** The limits of a kind, in short, for one part of the class. */
export const APART_SENTENCES: Readonly<Record<LimitedKind, string>> = {
  'not seen': 'watch from {watch} teaching days, and act from {act}',
  behind: 'watch from {watch} missing, and act from {act}',
  'low standing': 'watch under {watch} %, and act under {act} %',
  slipping: 'watch from {watch} points a week, and act from {act}',
  'low time': 'watch up to {watch} % of the median, and act up to {act} %',
};
