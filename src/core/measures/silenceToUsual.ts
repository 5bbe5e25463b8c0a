import { oneDigit } from '../format';
import { measure } from './measure';

export const silenceToUsual = measure({
  name: 'Silence to usual gap',
  unit: 'number',
  needs: [],
  means: 'How many times the usual gap the present silence is; a usual gap counts as a day at least.',
  value: ({ measured }) =>
    measured?.rhythm.usualGap == null
      ? null
      : measured.rhythm.silence / Math.max(1, measured.rhythm.usualGap),
  words: oneDigit,
  unknown: 'no rhythm yet',
});
