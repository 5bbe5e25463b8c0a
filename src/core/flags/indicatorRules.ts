import type { StudentMeasures } from '../measures/studentMeasures';
import type { Condition } from '../rules/condition';
import type { FlagDetail } from './detail';
import type { FlagKind, IndicatorSettings } from './indicators';
import type { FlagLevel } from './level';

/** An indicator: the conditions that open its flag, and the numbers that its reason says. */
interface Indicator {
  readonly watch: (settings: IndicatorSettings) => Condition;
  readonly act: (settings: IndicatorSettings) => Condition;
  readonly detail: (m: StudentMeasures, settings: IndicatorSettings, level: FlagLevel) => FlagDetail;
}

const notSeen = (days: number, { notSeen: { ownQuantile } }: IndicatorSettings): Condition => ({
  all: [
    { measure: 'silence', is: '>=', than: days },
    { measure: 'silencePlace', is: '>=', than: ownQuantile },
  ],
});

const lowStanding = (under: number, { lowStanding: { leastWorks } }: IndicatorSettings): Condition => ({
  measure: 'standing',
  is: '<',
  than: under,
  least: leastWorks,
});

const slipping = (points: number, { slipping: { maxP } }: IndicatorSettings): Condition => ({
  all: [
    { measure: 'trend', is: '<=', than: -points },
    { measure: 'trendChance', is: '<=', than: maxP },
  ],
});

const lowTime = (
  percent: number,
  { lowTime: { windowDays, leastMedianMinutes } }: IndicatorSettings,
): Condition => ({
  measure: 'timeToClass',
  days: windowDays,
  is: '<=',
  than: percent,
  least: leastMedianMinutes,
});

const effort = ({
  lowStanding: { leastWorks },
  effort: { windowDays },
  lowTime,
}: IndicatorSettings): Condition => ({
  all: [
    { measure: 'effortShortfall', is: '>', than: 0, least: leastWorks },
    { measure: 'timeToClass', days: windowDays, is: '>=', than: 100, least: lowTime.leastMedianMinutes },
  ],
});

/** The six indicators as conditions, with the thresholds of a course. */
export const INDICATORS: Readonly<Record<FlagKind, Indicator>> = {
  'not seen': {
    watch: (s) => notSeen(s.notSeen.watchDays, s),
    act: (s) => notSeen(s.notSeen.actDays, s),
    detail: ({ rhythm: { silence, usualGap, longestGap, lastSeen } }) => ({
      kind: 'not seen',
      silence,
      usualGap,
      longestGap,
      never: lastSeen == null,
    }),
  },
  behind: {
    watch: (s) => ({ measure: 'missing', is: '>=', than: s.behind.watch }),
    act: (s) => ({ measure: 'missing', is: '>=', than: s.behind.act }),
    detail: ({ completion: { missing, expected } }) => ({ kind: 'behind', missing, expected }),
  },
  'low standing': {
    watch: (s) => lowStanding(s.lowStanding.watch, s),
    act: (s) => lowStanding(s.lowStanding.act, s),
    detail: ({ standing }, { lowStanding: limits }, level) => ({
      kind: 'low standing',
      standing: standing.standing!,
      limit: limits[level],
      highestPossible: standing.highestPossible,
    }),
  },
  slipping: {
    watch: (s) => slipping(s.slipping.watch, s),
    act: (s) => slipping(s.slipping.act, s),
    detail: ({ trend, standing, standingBefore }) => ({
      kind: 'slipping',
      perWeek: trend!.perWeek!,
      relativePerWeek: trend!.relativePerWeek!,
      works: trend!.n,
      p: trend!.test.p!,
      standing: standing.standing,
      before: standingBefore,
    }),
  },
  'low time': {
    watch: (s) => lowTime(s.lowTime.watch, s),
    act: (s) => lowTime(s.lowTime.act, s),
    detail: ({ recentTime: { minutes, classMedian } }, { lowTime: { windowDays: days } }) => ({
      kind: 'low time',
      minutes,
      classMedian,
      days,
    }),
  },
  'effort without progress': {
    watch: effort,
    act: (s) => ({ all: [effort(s), lowStanding(s.lowStanding.act, s)] }),
    detail: (
      { effortTime: { minutes, classMedian }, standing, effortBand },
      { effort: { windowDays: days } },
    ) => ({
      kind: 'effort without progress',
      minutes,
      classMedian,
      days,
      standing: standing.standing!,
      usual: effortBand && [effortBand.low, effortBand.high],
    }),
  },
};
