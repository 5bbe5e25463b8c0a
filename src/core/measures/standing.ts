import { whole } from '../format';
import { measure } from './measure';

export const standing = measure({
  name: 'Standing',
  unit: 'per cent',
  needs: [],
  noun: 'standing',
  means: 'The weighted grade as of today.',
  value: ({ measured }) => measured?.standing.standing ?? null,
  evidence: ({ measured }) => measured?.gradedWorks ?? 0,
  words: (value) => `${whole(value)} %`,
  unknown: 'none yet',
});
