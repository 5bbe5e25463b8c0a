import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const contributions = measure({
  name: 'Contributions',
  unit: 'number',
  needs: ['window'],
  noun: 'contributions',
  means: 'Things done: practised, attempted, handed in, posted.',
  value: inWindow((f) => f.contributions),
  words: whole,
  unknown: 'no days chosen',
});
