import type { ActivityKind } from '../course/kinds';
import type { Percent } from '../units';

/** Where low scores end and high ones begin. */
export interface BandCuts {
  /** At or below is low. */
  readonly low: Percent;
  /** At or above is high. */
  readonly high: Percent;
}

/** The cuts of a course: practice work has its own, everything else the course's scale. */
export interface ScoreBands {
  readonly practice: BandCuts;
  readonly other: BandCuts;
}

/** Practice: 50 and below, 51 to 99, 100 (common practice); elsewhere half marks and 85 until the course says else. */
export const USUAL_BANDS: ScoreBands = { practice: { low: 50, high: 100 }, other: { low: 50, high: 85 } };

export const BANDS = ['low', 'middle', 'high'] as const;
export type Band = (typeof BANDS)[number];

export const cutsFor = (bands: ScoreBands, kind: ActivityKind): BandCuts =>
  kind === 'practice' ? bands.practice : bands.other;

/** The band of a score in per cent. What is just above the low cut is already middle, just under the high one still. */
export const bandOf = (percent: Percent, cuts: BandCuts): Band =>
  percent <= cuts.low ? 'low' : percent >= cuts.high ? 'high' : 'middle';

/** Words of a band with its numbers, for a head or a filter. */
export function bandWords(band: Band, cuts: BandCuts): string {
  if (band === 'low') return `${cuts.low} % and below`;
  return band === 'high'
    ? `${cuts.high} %${cuts.high < 100 ? ' and above' : ''}`
    : `between ${cuts.low} and ${cuts.high} %`;
}
