import { oneDigit } from '../format';
import { goalLead as lead } from '../outcomes/goals';
import { measure } from './measure';

export const goalLead = measure({
  name: 'Ahead of the goal',
  unit: 'number',
  needs: [],
  noun: 'outcomes a week ahead of the goal',
  means:
    'Outcomes newly secure a week less those that the goal takes: under 0 is too slow to be there in time. From its second week on.',
  value: ({ goal }) => (goal ? lead(goal) : null),
  words: (value) => `${value > 0 ? '+' : ''}${oneDigit(value)} a week`,
  unknown: 'no goal is set, or it is too early to say',
});
