import { whole } from '../format';
import { measure } from './measure';

export const completionShare = measure({
  name: 'Completion',
  unit: 'per cent',
  needs: [],
  noun: 'completion',
  means: 'Assignments handed in or graded, of those due by now and not excused.',
  value: ({ measured }) =>
    measured && measured.completion.expected > 0
      ? (100 * measured.completion.done) / measured.completion.expected
      : null,
  words: (value) => `${whole(value)} %`,
  unknown: 'nothing was due yet',
});
