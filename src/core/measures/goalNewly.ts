import { oneDigit } from '../format';
import { measure } from './measure';

export const goalNewly = measure({
  name: 'Newly secure',
  unit: 'number',
  needs: [],
  noun: 'outcomes newly secure a week',
  means:
    'Outcomes of the goal due next that became secure a week since it was set, those lost again taken off. From its second week on.',
  value: ({ goal }) => goal?.newly ?? null,
  words: (value) => `${oneDigit(value)} a week`,
  unknown: 'no goal is set, or it is too early to say',
});
