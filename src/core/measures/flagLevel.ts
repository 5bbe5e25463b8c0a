import { measure } from './measure';

const LEVELS = { none: 0, watch: 1, act: 2 } as const;

export const flagLevel = measure({
  name: 'Flag',
  unit: 'number',
  needs: ['flag'],
  means: 'Level of the open flag of a kind: 0 without one, 1 watch, 2 act.',
  value: (of, { flag }) => (flag == null || !of.flag ? null : LEVELS[of.flag(flag) ?? 'none']),
  words: (value) => (value === 2 ? 'act' : value === 1 ? 'watch' : 'no flag'),
  unknown: 'not evaluated yet',
});
