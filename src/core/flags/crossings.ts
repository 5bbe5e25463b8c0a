import type { Minutes, Percent } from '../units';
import type { FlagKind, FlagLevel, IndicatorSettings } from './indicators';
import type { StudentMeasures } from '../measures/studentMeasures';

/** The numbers of a flag, by kind: what its reason says. */
export type FlagDetail =
  | { kind: 'not seen'; silence: number; usualGap: number | null; longestGap: number | null; never: boolean }
  | { kind: 'behind'; missing: readonly string[]; expected: number }
  | { kind: 'low standing'; standing: Percent; limit: Percent; highestPossible: Percent | null }
  | {
      kind: 'slipping';
      perWeek: number;
      relativePerWeek: number;
      works: number;
      p: number;
      standing: Percent | null;
      before: Percent | null;
    }
  | { kind: 'low time'; minutes: Minutes; classMedian: Minutes; days: number }
  | {
      kind: 'effort without progress';
      minutes: Minutes;
      classMedian: Minutes;
      days: number;
      standing: Percent;
    };

/** An indicator over its threshold. */
export interface Crossing {
  readonly kind: FlagKind;
  readonly level: FlagLevel;
  readonly detail: FlagDetail;
}

/** The indicators that a student's measures cross. Too little data crosses nothing. */
export function crossings(m: StudentMeasures, settings: IndicatorSettings): Crossing[] {
  const found: Crossing[] = [];
  const add = (level: FlagLevel | null, detail: FlagDetail) => {
    if (level) found.push({ kind: detail.kind, level, detail });
  };
  const { notSeen, behind, lowStanding, slipping, lowTime, effort } = settings;

  const { silence, usualGap, longestGap, silenceQuantile, lastSeen } = m.rhythm;
  const unusual = m.activityKnown && (silenceQuantile == null || silenceQuantile >= notSeen.ownQuantile);
  add(unusual ? atLeast(silence, notSeen.watchDays, notSeen.actDays) : null, {
    kind: 'not seen',
    silence,
    usualGap,
    longestGap,
    never: lastSeen == null,
  });

  const { missing, expected } = m.completion;
  add(atLeast(missing.length, behind.watch, behind.act), { kind: 'behind', missing, expected });

  const now = m.standing.standing;
  if (now != null && m.gradedWorks >= lowStanding.leastWorks) {
    const level = now < lowStanding.act ? 'act' : now < lowStanding.watch ? 'watch' : null;
    const limit = level === 'act' ? lowStanding.act : lowStanding.watch;
    add(level, { kind: 'low standing', standing: now, limit, highestPossible: m.standing.highestPossible });
  }

  const { trend } = m;
  if (trend?.relativePerWeek != null && trend.perWeek != null && trend.test.p != null) {
    const level =
      trend.test.p <= slipping.maxP ? atLeast(-trend.relativePerWeek, slipping.watch, slipping.act) : null;
    add(level, {
      kind: 'slipping',
      perWeek: trend.perWeek,
      relativePerWeek: trend.relativePerWeek,
      works: trend.n,
      p: trend.test.p,
      standing: now,
      before: m.standingBefore,
    });
  }

  const recent = m.recentTime;
  if (recent.whole && recent.classMedian >= lowTime.leastMedianMinutes) {
    const share = (100 * recent.minutes) / recent.classMedian;
    const level = share <= lowTime.act ? 'act' : share <= lowTime.watch ? 'watch' : null;
    const { minutes, classMedian } = recent;
    add(level, { kind: 'low time', minutes, classMedian, days: lowTime.windowDays });
  }

  const long = m.effortTime;
  if (
    now != null &&
    now < effort.standingUnder &&
    m.gradedWorks >= lowStanding.leastWorks &&
    m.standingRank != null &&
    m.standingRank <= 1 / 3 &&
    long.classMedian >= lowTime.leastMedianMinutes &&
    long.minutes >= long.classMedian
  ) {
    const level = now < lowStanding.act ? 'act' : 'watch';
    const { minutes, classMedian } = long;
    const { windowDays: days } = effort;
    add(level, { kind: 'effort without progress', minutes, classMedian, days, standing: now });
  }
  return found;
}

const atLeast = (value: number, watch: number, act: number): FlagLevel | null =>
  value >= act ? 'act' : value >= watch ? 'watch' : null;
