import { count } from '../format';
import { measure } from './measure';

export const daysSince = measure({
  name: 'Days since last login',
  unit: 'days',
  needs: [],
  noun: 'days since the last login',
  means: 'Calendar days since anything was recorded.',
  value: ({ measured }) => measured?.rhythm.daysSince ?? null,
  words: (value) => count(value, 'day'),
  unknown: 'never seen',
});
