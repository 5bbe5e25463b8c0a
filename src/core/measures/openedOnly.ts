import { whole } from '../format';
import { measure } from './measure';

export const openedOnly = measure({
  name: 'Opened only',
  unit: 'number',
  needs: ['window'],
  noun: 'assignments opened and nothing done in them',
  means: 'Assignments opened in the window in which nothing was done and nothing handed in so far.',
  value: (of, { window }) => (window && of.openedOnly ? of.openedOnly(window) : null),
  words: whole,
  unknown: 'no days chosen',
});
