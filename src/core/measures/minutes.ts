import { whole } from '../format';
import { measure } from './measure';
import { inWindow } from './inWindow';

export const minutes = measure({
  name: 'Minutes',
  unit: 'minutes',
  needs: ['window'],
  noun: 'minutes',
  means:
    'Time on task in the window: between the events of a sitting, a gap over the session limit ending it; the last event counts with the student’s usual time for that kind of activity.',
  value: inWindow((f) => f.seconds / 60),
  words: whole,
  unknown: 'no days chosen',
});
