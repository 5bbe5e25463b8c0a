import type { IndicatorSettings } from '../flags/indicators';

export interface CourseSettings {
  readonly sessionGapMinutes: number;
  readonly indicators: IndicatorSettings;
}
