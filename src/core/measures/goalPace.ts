import { oneDigit } from '../format';
import { measure } from './measure';

export const goalPace = measure({
  name: 'Pace of the goal',
  unit: 'number',
  needs: [],
  noun: 'outcomes a week that the goal takes',
  means:
    'Outcomes a week that must become secure from today on for the goal due next to be reached in time. Not known once its day is over.',
  value: ({ goal }) => goal?.pace ?? null,
  words: (value) => `${oneDigit(value)} a week`,
  unknown: 'no goal is set, or it is too early to say',
});
