import { oneDigit } from '../format';
import { measure } from './measure';

export const standingPlace = measure({
  name: 'Place of the standing',
  unit: 'share',
  needs: ['class'],
  means: 'Share of the class whose standing is lower, ties half: 0 lowest, 1 highest.',
  value: ({ measured }) => measured?.standingRank ?? null,
  words: oneDigit,
  unknown: 'none yet',
});
