import { oneDigit } from '../format';
import { measure } from './measure';

export const silencePlace = measure({
  name: 'Silence among own gaps',
  unit: 'share',
  needs: [],
  means:
    'Share of the student’s own past gaps that are shorter than the present silence, ties half. Without any gap so far the silence is longer than all.',
  value: ({ measured }) => measured && (measured.rhythm.silenceQuantile ?? 1),
  words: oneDigit,
  unknown: 'not evaluated yet',
});
