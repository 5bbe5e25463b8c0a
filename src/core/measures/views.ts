import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const views = measure({
  name: 'Views',
  unit: 'number',
  needs: ['window'],
  noun: 'views',
  means: 'Things looked at: pages, films, assignments opened.',
  value: inWindow((f) => f.views),
  words: whole,
  unknown: 'no days chosen',
});
