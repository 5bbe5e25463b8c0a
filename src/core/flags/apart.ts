import type { PartOfClass } from '../course/parts';
import type { ApartLimits, IndicatorSettings, LimitedKind } from './indicators';

interface Limits {
  readonly watch: number;
  readonly act: number;
}

/** The limits of a kind. */
export function limitsOf(settings: IndicatorSettings, kind: LimitedKind): Limits {
  switch (kind) {
    case 'not seen':
      return { watch: settings.notSeen.watchDays, act: settings.notSeen.actDays };
    case 'behind':
      return settings.behind;
    case 'low standing':
      return settings.lowStanding;
    case 'slipping':
      return settings.slipping;
    case 'low time':
      return settings.lowTime;
  }
}

function withLimits(settings: IndicatorSettings, { kind, watch, act }: ApartLimits): IndicatorSettings {
  switch (kind) {
    case 'not seen':
      return { ...settings, notSeen: { ...settings.notSeen, watchDays: watch, actDays: act } };
    case 'behind':
      return { ...settings, behind: { watch, act } };
    case 'low standing':
      return { ...settings, lowStanding: { ...settings.lowStanding, watch, act } };
    case 'slipping':
      return { ...settings, slipping: { ...settings.slipping, watch, act } };
    case 'low time':
      return { ...settings, lowTime: { ...settings.lowTime, watch, act } };
  }
}

/**
 * The thresholds for a student by the parts of the class they are in. Of several that are set apart for one kind, the first
 * in the list counts.
 */
export const settingsFor = (settings: IndicatorSettings, parts: readonly PartOfClass[]): IndicatorSettings =>
  (settings.apart ?? [])
    .filter((a) => parts.includes(a.part))
    .reduceRight<IndicatorSettings>(withLimits, settings);
