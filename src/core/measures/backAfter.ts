import { whole } from '../format';
import { measure } from './measure';

export const backAfter = measure({
  name: 'Back after',
  unit: 'teaching days',
  needs: [],
  noun: 'teaching days of silence that just ended',
  means: 'Teaching days between the last two active days, for whoever was active today or yesterday; else 0.',
  value: ({ measured }) => {
    if (!measured?.activityKnown) return null;
    const { daysSince, lastGap } = measured.rhythm;
    // Figures from before this was kept do not have it.
    return daysSince != null && daysSince <= 1 ? (lastGap ?? 0) : 0;
  },
  words: whole,
  unknown: 'nothing is recorded of the class',
});
