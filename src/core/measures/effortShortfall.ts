import { oneDigit } from '../format';
import { measure } from './measure';

export const effortShortfall = measure({
  name: 'Under others with as much time',
  unit: 'points',
  needs: ['class'],
  means:
    'Points by which the standing lies more than 5 points under the middle half of the students nearest in time on task (the nearest third, at least 15); in a class of under 15, under its lowest third.',
  value: ({ measured }) => {
    const standing = measured?.standing.standing;
    return standing == null || !measured?.effortBand ? null : measured.effortBand.mark - standing;
  },
  evidence: ({ measured }) => measured?.gradedWorks ?? 0,
  words: oneDigit,
  unknown: 'nothing graded yet',
});
