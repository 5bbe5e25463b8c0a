import { oneDigit } from '../format';
import { measure } from './measure';

export const usualGap = measure({
  name: 'Usual gap',
  unit: 'teaching days',
  needs: [],
  means: 'Median of the gaps between days with a login, in teaching days; breaks do not count.',
  value: ({ measured }) => measured?.rhythm.usualGap ?? null,
  words: oneDigit,
  unknown: 'no rhythm yet',
});
