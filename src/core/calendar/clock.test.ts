import fc from 'fast-check';
import { expect, test } from 'vitest';
import { clockMinute, clockText } from './clock';

test('a time is read as people type it, and what is no time of a day is not', () => {
  for (const text of ['18:30', '18.30', '1830', ' 18:30 ']) expect(clockMinute(text)).toBe(18 * 60 + 30);
  expect(clockMinute('930')).toBe(9 * 60 + 30);
  expect(clockMinute('9')).toBe(9 * 60);
  for (const text of ['', '24:00', '12:60', '9 am', '12345', '-1']) expect(clockMinute(text)).toBeNull();
});

test('a time that is written is read as the same', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1439 }), (minute) => clockMinute(clockText(minute)) === minute),
  );
});
