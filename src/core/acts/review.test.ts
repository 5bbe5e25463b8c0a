import fc from 'fast-check';
import { expect, test } from 'vitest';
import { minuteOfDay, localDate, weekday } from '../calendar/zone';
import { DAY_MS } from '../units';
import { nextReview } from './review';

const zone = 'Europe/Berlin';
const at = (text: string) => Date.parse(text);

test('the next time is today if it is still to come, else in a week', () => {
  const friday = { weekday: 5, minute: 9 * 60 };
  expect(nextReview(friday, at('2026-11-27T07:59:00Z'), zone)).toBe(at('2026-11-27T08:00:00Z'));
  expect(nextReview(friday, at('2026-11-27T08:00:00Z'), zone)).toBe(at('2026-12-04T08:00:00Z'));
});

test('it stays at the time on the wall when the clock changes', () => {
  const monday = { weekday: 1, minute: 9 * 60 };
  expect(nextReview(monday, at('2026-10-20T12:00:00Z'), zone)).toBe(at('2026-10-26T08:00:00Z'));
  expect(nextReview(monday, at('2026-10-15T12:00:00Z'), zone)).toBe(at('2026-10-19T07:00:00Z'));
});

test('whenever one asks, it lies ahead, within eight days, on its weekday and at its time', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 7 }),
      // Every day has these times, whatever the clock does.
      fc.integer({ min: 4 * 60, max: 24 * 60 - 1 }),
      fc.integer({ min: at('2026-01-01T00:00:00Z'), max: at('2027-12-31T00:00:00Z') }),
      (on, minute, after) => {
        const next = nextReview({ weekday: on, minute }, after, zone);
        expect(next).toBeGreaterThan(after);
        expect(next - after).toBeLessThanOrEqual(7 * DAY_MS + 3_600_000);
        expect(weekday(localDate(next, zone))).toBe(on);
        expect(minuteOfDay(next, zone)).toBe(minute);
      },
    ),
  );
});
