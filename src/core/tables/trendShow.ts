import type { TrendRow } from '../views/trends';

/** What the trends of students can be narrowed to. */
export const TREND_SHOWS = ['all', 'falling', 'though', 'rising', 'down', 'up'] as const;
export type TrendShow = (typeof TREND_SHOWS)[number];
export const isTrendShow = (text: string | null | undefined): text is TrendShow =>
  TREND_SHOWS.some((s) => s === text);

export const trendShows: Readonly<Record<TrendShow, (r: TrendRow) => boolean>> = {
  all: () => true,
  falling: (r) => r.direction === 'falling',
  though: (r) => r.direction === 'falling' && r.works,
  rising: (r) => r.direction === 'rising',
  down: (r) => r.turned === 'down',
  up: (r) => r.turned === 'up',
};
