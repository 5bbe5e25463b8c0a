import fc from 'fast-check';

/** Values that no form and no client of ours sends. */
export const odd = fc.constantFrom<unknown>(
  null,
  undefined,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\uD800',
  'x'.repeat(5000),
  '2026-02-31',
  '0000-00-00',
  '9999-12-31',
  -1,
  0,
  0.5,
  2 ** 31,
  2 ** 53,
  1e300,
  NaN,
  Infinity,
  true,
  [],
  {},
  [null],
  [[1]],
  { id: 1 },
  'Robert"); drop table events; --',
);

/** Places in an input, as the keys that lead there. */
export function placesIn(value: unknown, path: readonly string[] = []): string[][] {
  const inner =
    typeof value === 'object' && value !== null
      ? Object.entries(value).flatMap(([key, v]) => placesIn(v, [...path, key]))
      : [];
  return [[...path], ...inner];
}

/** The input with another value at a place. */
export function withValue(input: unknown, [key, ...rest]: readonly string[], value: unknown): unknown {
  if (key === undefined) return value;
  const copy: Record<string, unknown> = { ...(input as Record<string, unknown>) };
  copy[key] = withValue(copy[key], rest, value);
  return Array.isArray(input) ? Object.values(copy) : copy;
}
