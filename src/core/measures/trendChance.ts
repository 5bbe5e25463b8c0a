import { measure } from './measure';

export const trendChance = measure({
  name: 'Chance of the trend',
  unit: 'share',
  needs: ['class'],
  means: 'How often grades without any trend would lie like this (Mann-Kendall test, two-sided p).',
  value: ({ measured }) => measured?.trend?.test.p ?? null,
  words: (p) => `p = ${p.toFixed(2)}`,
  unknown: 'too few graded assignments',
});
