import { measure } from './measure';

export const first = measure({
  name: 'First',
  unit: 'instant',
  needs: ['window'],
  means: 'Start of the first sitting in the window.',
  value: (of, { window }) => (window && of.present?.(window).first) ?? null,
  words: (at) => new Date(at).toISOString(),
  unknown: 'not in these days',
});
