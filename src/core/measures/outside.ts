import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const outside = measure({
  name: 'Outside',
  unit: 'minutes',
  needs: ['window'],
  noun: 'minutes outside class',
  means: 'The part of the minutes outside every meeting.',
  value: inWindow((f) => (f.seconds - f.inClassSeconds) / 60),
  words: whole,
  unknown: 'no days chosen',
});
