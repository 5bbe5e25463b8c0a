import type { LimitedKind } from './indicators';

/** A number of an indicator: what it is, and between what it lies. */
export interface IndicatorNumber {
  /** With its indicator, as an error and a reader of the screen say it. */
  readonly label: string;
  readonly least: number;
  readonly most: number;
  /** What an arrow key does; a whole number where it is 1. */
  readonly step: number;
  /** How many times larger it is written than it is kept. */
  readonly times?: number;
}

const n = (label: string, least: number, most: number, step = 1, times?: number): IndicatorNumber => ({
  label,
  least,
  most,
  step,
  times,
});

/** The numbers of the indicators by their place in the settings. The sentences, the form and the check read them here. */
export const INDICATOR_NUMBERS = {
  'notSeen.watchDays': n('Not seen, watch', 1, 60),
  'notSeen.actDays': n('Not seen, act', 1, 90),
  'notSeen.ownQuantile': n('Not seen, own rhythm', 0, 1, 0.05, 100),
  'behind.watch': n('Behind, watch', 1, 50),
  'behind.act': n('Behind, act', 1, 50),
  'lowStanding.watch': n('Low standing, watch', 0, 100, 0.5),
  'lowStanding.act': n('Low standing, act', 0, 100, 0.5),
  'lowStanding.leastWorks': n('Low standing, graded assignments', 1, 50),
  'slipping.watch': n('Slipping, watch', 0.1, 50, 0.1),
  'slipping.act': n('Slipping, act', 0.1, 50, 0.1),
  'slipping.maxP': n('Slipping, chance', 0.001, 1, 0.01, 100),
  'lowTime.windowDays': n('Low time, days', 1, 60),
  'lowTime.watch': n('Low time, watch', 0, 100, 0.5),
  'lowTime.act': n('Low time, act', 0, 100, 0.5),
  'lowTime.leastMedianMinutes': n('Low time, least class median', 0, 10_000),
  'effort.windowDays': n('Effort without progress, days', 7, 120),
} as const satisfies Readonly<Record<string, IndicatorNumber>>;
export type IndicatorKey = keyof typeof INDICATOR_NUMBERS;

/** Where the limits of a kind stand in the settings. */
export const LIMIT_KEYS: Readonly<
  Record<LimitedKind, { readonly watch: IndicatorKey; readonly act: IndicatorKey }>
> = {
  'not seen': { watch: 'notSeen.watchDays', act: 'notSeen.actDays' },
  behind: { watch: 'behind.watch', act: 'behind.act' },
  'low standing': { watch: 'lowStanding.watch', act: 'lowStanding.act' },
  slipping: { watch: 'slipping.watch', act: 'slipping.act' },
  'low time': { watch: 'lowTime.watch', act: 'lowTime.act' },
};
