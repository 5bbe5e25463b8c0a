import { whole } from '../format';
import { measure } from './measure';
import { minutesOf } from './inWindow';

export const minutesBefore = measure({
  name: 'Before',
  unit: 'minutes',
  needs: ['window'],
  means: 'Minutes in the as many days before the window.',
  value: (of, { window, kind }) =>
    window?.before ? minutesOf(of.figures?.(window.before, kind ?? null)) : null,
  words: whole,
  unknown: 'the days before lie outside the term',
});
