import { whole } from '../format';
import { measure } from './measure';
import { minutesOf } from './inWindow';

export const minutesBefore = measure({
  name: 'Before',
  unit: 'minutes',
  needs: ['window'],
  means:
    'Minutes in the window before: as many teaching days, breaks left out, and today’s counterpart only up to the present time of day.',
  value: (of, { window, kind }) =>
    window?.before ? minutesOf(of.figures?.(window.before, kind ?? null)) : null,
  words: whole,
  unknown: 'the term had too few days before',
});
