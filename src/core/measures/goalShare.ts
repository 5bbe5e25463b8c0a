import { measure } from './measure';

export const goalShare = measure({
  name: 'Goal reached',
  unit: 'share',
  needs: [],
  noun: 'the share of the goal that is secure',
  means: 'Outcomes of the goal due next that are secure, of all that it names.',
  value: ({ goal }) => (goal ? goal.secure / goal.of : null),
  words: (value) => `${Math.round(100 * value)} %`,
  unknown: 'no goal is set, or it is too early to say',
});
