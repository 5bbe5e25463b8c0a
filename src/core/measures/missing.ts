import { whole } from '../format';
import { measure } from './measure';

export const missing = measure({
  name: 'Missing',
  unit: 'number',
  needs: [],
  noun: 'missing assignments',
  means: 'Assignments due, not excused, and not handed in. One without a due date never counts.',
  value: ({ measured }) => measured?.completion.missing.length ?? null,
  words: whole,
  unknown: 'not evaluated yet',
});
