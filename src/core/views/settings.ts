import type { IndicatorSettings } from '../risk/indicators';

export interface CourseSettings {
  readonly sessionGapMinutes: number;
  readonly indicators: IndicatorSettings;
}
