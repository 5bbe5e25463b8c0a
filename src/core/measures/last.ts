import { measure } from './measure';

export const last = measure({
  name: 'Last',
  unit: 'instant',
  needs: ['window'],
  means: 'End of the last sitting in the window.',
  value: (of, { window }) => (window && of.present?.(window).last) ?? null,
  words: (at) => new Date(at).toISOString(),
  unknown: 'not in these days',
});
