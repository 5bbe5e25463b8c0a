import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shortDay, weekdayDay } from '../format';
import { typedDay } from './typedDay';
import { addDays } from './zone';

const TODAY = '2026-11-25';

describe('a day as it is typed', () => {
  it.each([
    ['2026-11-16', '2026-11-16'],
    ['16 Nov', '2026-11-16'],
    [' 16  november 2027 ', '2027-11-16'],
    ['Mon 16 Nov', '2026-11-16'],
    ['16.11.', '2026-11-16'],
    ['3/11/2025', '2025-11-03'],
    ['3/1', '2027-01-03'],
    ['today', '2026-11-25'],
    ['Tomorrow', '2026-11-26'],
    ['29 Feb 2028', '2028-02-29'],
    ['29 Feb 2026', null],
    ['31 Nov', null],
    ['11/25/2026', null],
    ['soon', null],
    ['', null],
    ['2026-13-01', null],
    ['16 Nov 26', null],
  ])('%s', (text, day) => expect(typedDay(text, TODAY)).toBe(day));

  it('is read back as it stands on screen, within half a year', () => {
    fc.assert(
      fc.property(fc.integer({ min: -180, max: 180 }), (days) => {
        const day = addDays(TODAY, days);
        expect(typedDay(shortDay(day), TODAY)).toBe(day);
        expect(typedDay(weekdayDay(day), TODAY)).toBe(day);
      }),
    );
  });
});
