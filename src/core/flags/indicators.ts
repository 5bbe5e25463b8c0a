import type { TimeWindows } from '../measures/measureClass';
import type { PartOfClass } from '../course/parts';
import type { Percent } from '../units';

/** The kinds of flag, in the order in which they are listed. */
export const FLAG_KINDS = [
  'not seen',
  'behind',
  'low standing',
  'slipping',
  'low time',
  'effort without progress',
] as const;
export type FlagKind = (typeof FLAG_KINDS)[number];

/** Kinds that rest on what the source says of logins and time: on stale data nothing is known of them. */
export const FLAGS_OF_EVENTS: readonly FlagKind[] = ['not seen', 'low time', 'effort without progress'];

/** Kinds of flag with a limit to watch from and one to act from. */
export const LIMITED_KINDS = [
  'not seen',
  'behind',
  'low standing',
  'slipping',
  'low time',
] as const satisfies readonly FlagKind[];
export type LimitedKind = (typeof LIMITED_KINDS)[number];
export const isLimited = (kind: FlagKind): kind is LimitedKind =>
  (LIMITED_KINDS as readonly FlagKind[]).includes(kind);

/** Limits of one kind of flag for one section or group, in place of those of the course. */
export interface ApartLimits {
  readonly part: PartOfClass;
  readonly kind: LimitedKind;
  readonly watch: number;
  readonly act: number;
}

/** The thresholds of a course. Each is crossed when reached. */
export interface IndicatorSettings {
  /** Teaching days without a login, and how rare that is among the student's own past gaps (share, 0..1). */
  readonly notSeen: { readonly watchDays: number; readonly actDays: number; readonly ownQuantile: number };
  /** Missing works. */
  readonly behind: { readonly watch: number; readonly act: number };
  /** Standing under these, from so many graded works on. */
  readonly lowStanding: { readonly watch: Percent; readonly act: Percent; readonly leastWorks: number };
  /** Points a week lost against the class (positive numbers), and the largest p of the trend test. */
  readonly slipping: { readonly watch: number; readonly act: number; readonly maxP: number };
  /** Time on task in the window, per cent of the class median; not asked while that median is under so many minutes. */
  readonly lowTime: {
    readonly windowDays: number;
    readonly watch: Percent;
    readonly act: Percent;
    readonly leastMedianMinutes: number;
  };
  /** Days in which time on task is set against the standing; see `effortRelation`. */
  readonly effort: { readonly windowDays: number };
  /** Other limits for some sections and groups; see `settingsFor`. */
  readonly apart?: ApartLimits[];
}

/** Defaults, from common practice; every course can change them. */
export const DEFAULT_INDICATORS: IndicatorSettings = {
  notSeen: { watchDays: 5, actDays: 8, ownQuantile: 0.9 },
  behind: { watch: 2, act: 3 },
  lowStanding: { watch: 60, act: 50, leastWorks: 3 },
  slipping: { watch: 2, act: 4, maxP: 0.1 },
  lowTime: { windowDays: 14, watch: 40, act: 20, leastMedianMinutes: 30 },
  effort: { windowDays: 28 },
};

/** The days in which the indicators hold time on task against the class. */
export const timeWindows = ({ lowTime, effort }: IndicatorSettings): TimeWindows => ({
  recent: lowTime.windowDays,
  effort: effort.windowDays,
});
