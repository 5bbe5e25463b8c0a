import { whole } from '../format';
import { measure } from './measure';

export const timeToClass = measure({
  name: 'Time against the class',
  unit: 'per cent',
  needs: ['days', 'class'],
  means: 'Minutes in so many days, in per cent of the class median.',
  value: (of, { days }) => {
    const time = days == null ? null : of.time?.(days);
    if (!time) return null;
    // Exactly the median must be 100, which a quotient of decimals need not be.
    const share = time.minutes === time.classMedian ? 100 : (100 * time.minutes) / time.classMedian;
    // Less time than others says nothing of somebody who came in the middle; as much as they had does.
    return time.whole || share >= 100 ? share : null;
  },
  evidence: (of, { days }) => (days == null ? 0 : (of.time?.(days)?.classMedian ?? 0)),
  words: (value) => `${whole(value)} %`,
  unknown: 'joined within these days',
});
