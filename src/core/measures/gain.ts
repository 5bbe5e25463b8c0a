import { oneDigit } from '../format';
import { measure } from './measure';

export const gain = measure({
  name: 'Gain',
  unit: 'points',
  needs: ['class'],
  noun: 'a gain against the class',
  means:
    'The last three graded assignments against those before, each less the class median, in percentage points. From five graded assignments on.',
  // Figures from before this was kept do not have it.
  value: ({ measured }) => measured?.gain ?? null,
  evidence: ({ measured }) => measured?.gradedWorks ?? 0,
  words: (value) => `${value > 0 ? '+' : ''}${oneDigit(value)} points`,
  unknown: 'too few graded assignments',
});
