import { whole } from '../format';
import { measure } from './measure';

export const silence = measure({
  name: 'Silence',
  unit: 'teaching days',
  needs: [],
  noun: 'teaching days of silence',
  means: 'Teaching days since the last login, as of now; breaks do not count.',
  // Where nothing at all is recorded of a class, silence says nothing.
  value: ({ measured }) => (measured?.activityKnown ? measured.rhythm.silence : null),
  words: whole,
  unknown: 'nothing is recorded of the class',
});
