import type { ActivityKind } from '../course/kinds';
import type { Percent } from '../units';

/** Where low scores end and high ones begin. */
export interface BandCuts {
  /** Under this is low. */
  readonly low: Percent;
  /** At or above is high. */
  readonly high: Percent;
}

/** The cuts of a course: practice work has its own, everything else the course's scale. */
export interface ScoreBands {
  readonly practice: BandCuts;
  readonly other: BandCuts;
}

/** Low under 60, high from 85, practice too, until the course says else. */
const USUAL_CUTS: BandCuts = { low: 60, high: 85 };
export const USUAL_BANDS: ScoreBands = { practice: USUAL_CUTS, other: USUAL_CUTS };

export const BANDS = ['low', 'middle', 'high'] as const;
export type Band = (typeof BANDS)[number];

export const cutsFor = (bands: ScoreBands, kind: ActivityKind): BandCuts =>
  kind === 'practice' ? bands.practice : bands.other;

/** The band of a score in per cent. A score on a cut belongs to the band above it. */
export const bandOf = (percent: Percent, cuts: BandCuts): Band =>
  percent < cuts.low ? 'low' : percent >= cuts.high ? 'high' : 'middle';

/** Words of a band with its numbers, for a head or a filter. */
export function bandWords(band: Band, cuts: BandCuts): string {
  if (band === 'low') return `under ${cuts.low} %`;
  return band === 'high'
    ? `${cuts.high} %${cuts.high < 100 ? ' and above' : ''}`
    : `from ${cuts.low} to under ${cuts.high} %`;
}
