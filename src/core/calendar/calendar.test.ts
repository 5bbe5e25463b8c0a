import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../units';
import { dayGrid, dayIndex } from './dayGrid';
import { meetingSpans } from './meetings';
import { breakWeeks, isBreak, teachingDaysBetween, weekOf, weekSpan, type Term } from './term';
import { addDays, daysBetween, instantOf, isZone, localDate, minuteOfDay, startOfDay, weekday } from './zone';

const hours = (date: string, zone: string) =>
  (startOfDay(addDays(date, 1), zone) - startOfDay(date, zone)) / HOUR_MS;
const iso = (at: number) => new Date(at).toISOString();

// Changes of clocks as the tz database (2025b) has them.
describe('days at a change of clocks', () => {
  it.each([
    ['Europe/Lisbon', '2026-03-29', 23],
    ['Europe/Lisbon', '2026-10-25', 25],
    ['America/Halifax', '2026-03-08', 23],
    ['America/Halifax', '2026-11-01', 25],
    ['Australia/Lord_Howe', '2026-04-05', 24.5],
    ['America/Santiago', '2026-09-06', 23],
    ['Asia/Kathmandu', '2026-06-01', 24],
  ])('%s %s has %d hours', (zone, date, expected) => expect(hours(date, zone)).toBe(expected));

  it('begins later where midnight does not exist (Santiago, 6 September 2026)', () => {
    expect(iso(startOfDay('2026-09-06', 'America/Santiago'))).toBe('2026-09-06T04:00:00.000Z');
    expect(minuteOfDay(startOfDay('2026-09-06', 'America/Santiago'), 'America/Santiago')).toBe(60);
  });
  it('takes the earlier of an hour that occurs twice, and the first instant after one that does not', () => {
    expect(iso(instantOf('2026-10-25', 90, 'Europe/Lisbon'))).toBe('2026-10-25T00:30:00.000Z');
    expect(iso(instantOf('2026-03-29', 90, 'Europe/Lisbon'))).toBe('2026-03-29T01:00:00.000Z');
  });
});

const zones = fc.constantFrom(
  'Europe/Lisbon',
  'America/Santiago',
  'Australia/Lord_Howe',
  'Pacific/Apia',
  'UTC',
);
const instants = fc.integer({ min: Date.UTC(2010, 0, 1), max: Date.UTC(2030, 0, 1) });

describe('the last minute of a day that the clock leaves out', () => {
  // The tz database: these zones change to summer time over midnight, so that 23:59 does not exist that night.
  const nights = ['America/Nuuk', 'America/Scoresbysund'].flatMap((zone) =>
    Array.from({ length: 365 * 7 }, (_, i) => addDays('2023-01-01', i)).flatMap((day) =>
      minuteOfDay(instantOf(day, 24 * 60 - 1, zone), zone) === 24 * 60 - 1 ? [] : [[zone, day] as const],
    ),
  );
  it('is found in both zones', () =>
    expect(new Set(nights.map(([zone]) => zone))).toEqual(new Set(['America/Nuuk', 'America/Scoresbysund'])));
  it.each(nights)('in %s on %s is the last instant of that day', (zone, day) => {
    const end = instantOf(day, 24 * 60 - 1, zone);
    expect(localDate(end, zone)).toBe(day);
    expect(localDate(end + 1, zone)).toBe(addDays(day, 1));
  });
});

describe('properties of days', () => {
  it('an instant lies in its own day', () => {
    fc.assert(
      fc.property(instants, zones, (at, zone) => {
        const date = localDate(at, zone);
        expect(startOfDay(date, zone)).toBeLessThanOrEqual(at);
        expect(startOfDay(addDays(date, 1), zone)).toBeGreaterThan(at);
      }),
    );
  });
  it('the grid finds the day that the zone says', () => {
    fc.assert(
      fc.property(
        instants,
        fc.integer({ min: 0, max: 200 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        zones,
        (from, days, where, zone) => {
          const to = from + days * DAY_MS;
          const grid = dayGrid(from, to, zone);
          const at = Math.floor(from + where * (to - from));
          expect(grid.dates[dayIndex(grid, at)]).toBe(localDate(at, zone));
        },
      ),
      { numRuns: 40 },
    );
  });
  it('days add and count back', () => {
    fc.assert(
      fc.property(fc.integer({ min: -5000, max: 5000 }), (n) => {
        expect(daysBetween('2026-02-28', addDays('2026-02-28', n))).toBe(n);
      }),
    );
  });
});

const term: Term = {
  zone: 'Europe/Lisbon',
  start: '2026-09-28',
  weeks: 15,
  breaks: [{ name: 'Reading week', from: '2026-11-09', to: '2026-11-15' }],
};

describe('terms', () => {
  it('number weeks through the break', () => {
    expect(weekOf(term, Date.parse('2026-09-27T22:59:59Z'))).toBe(0);
    expect(weekOf(term, Date.parse('2026-09-27T23:00:00Z'))).toBe(1);
    expect(weekOf(term, Date.parse('2026-11-25T10:00:00Z'))).toBe(9);
    expect(breakWeeks(term)).toEqual([7]);
    const week = weekSpan(term, 4);
    expect([week.first, week.last]).toEqual(['2026-10-19', '2026-10-25']);
    expect(week.until - week.from).toBe(7 * DAY_MS + HOUR_MS);
  });
  it('leave breaks out of teaching days', () => {
    expect(isBreak(term, '2026-11-15')).toBe(true);
    expect(teachingDaysBetween(term, '2026-11-07', '2026-11-17')).toBe(3);
    expect(teachingDaysBetween(term, '2026-11-10', '2026-11-10')).toBe(0);
  });
  it('keep the wall clock of meetings over the change, and none in the break', () => {
    const spans = meetingSpans(term, [{ weekday: 1, startMinute: 18 * 60, minutes: 120 }]);
    expect(spans).toHaveLength(14);
    expect(iso(spans[3]!.from)).toBe('2026-10-19T17:00:00.000Z');
    expect(iso(spans[4]!.from)).toBe('2026-10-26T18:00:00.000Z');
    expect(spans[4]!.until - spans[4]!.from).toBe(120 * MINUTE_MS);
  });
  it('know weekdays and zones', () => {
    expect(weekday('2026-11-25')).toBe(3);
    expect(weekday('2026-11-29')).toBe(7);
    expect(isZone('Europe/Lisbon')).toBe(true);
    expect(isZone('Mars/Olympus')).toBe(false);
  });
});
