import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const inClass = measure({
  name: 'In class',
  unit: 'minutes',
  needs: ['window'],
  noun: 'minutes in class',
  means: 'The part of the minutes that falls in a meeting of the student’s section.',
  value: inWindow((f) => f.inClassSeconds / 60),
  words: whole,
  unknown: 'no days chosen',
});
