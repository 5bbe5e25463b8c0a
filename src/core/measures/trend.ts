import { oneDigit } from '../format';
import { measure } from './measure';

export const trend = measure({
  name: 'A week',
  unit: 'points a week',
  needs: ['class'],
  noun: 'a grade trend',
  means:
    'Theil-Sen slope of the student’s per cents less the class median of each assignment, in points a week: a hard exam is not a fall of everyone.',
  value: ({ measured }) => measured?.trend?.relativePerWeek ?? null,
  evidence: ({ measured }) => measured?.trend?.n ?? 0,
  words: (value) => `${value > 0 ? '+' : ''}${oneDigit(value)}`,
  unknown: 'too few graded assignments',
});
