import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const daysActive = measure({
  name: 'Days',
  unit: 'days',
  needs: ['window'],
  noun: 'active days',
  means: 'Local days in the window on which anything was recorded.',
  value: inWindow((f) => f.days),
  words: whole,
  unknown: 'no days chosen',
});
