import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOUR_MS, MINUTE_MS } from '../units';
import { busiest, hoursOfWeek } from './heat';

const total = (grid: number[][]) => grid.flat().reduce((a, b) => a + b, 0);
const hour = (from: string, minutes = 60) => {
  const at = Date.parse(from);
  return { from: at, until: at + minutes * MINUTE_MS, seconds: minutes * 60 };
};

describe('hours of the week', () => {
  // Sunday 25 October 2026, Europe/Lisbon: 02:00 summer time becomes 01:00 (tz database), so 01:00-02:00 occurs twice.
  it('puts both hours that the clock shows twice into one', () => {
    const grid = hoursOfWeek([hour('2026-10-25T00:00:00Z'), hour('2026-10-25T01:00:00Z')], 'Europe/Lisbon');
    expect(grid[6]![1]).toBeCloseTo(120);
    expect(total(grid)).toBeCloseTo(120);
  });

  // Sunday 29 March 2026: 01:00 becomes 02:00, so no time is ever in the hour from 01:00.
  it('leaves the hour that does not exist empty', () => {
    const grid = hoursOfWeek([hour('2026-03-29T00:30:00Z')], 'Europe/Lisbon');
    expect([grid[6]![0], grid[6]![1], grid[6]![2]]).toEqual([30, 0, 30]);
  });

  // Lord Howe Island moves its clocks by half an hour (tz database), Kathmandu is 5 h 45 ahead all year.
  it('knows zones off the full hour', () => {
    expect(hoursOfWeek([hour('2026-06-01T00:15:00Z', 30)], 'Asia/Kathmandu')[0]![6]).toBeCloseTo(30);
    const grid = hoursOfWeek([hour('2026-04-04T14:30:00Z')], 'Australia/Lord_Howe');
    expect(grid[6]![1]).toBeCloseTo(60);
    expect(total(grid)).toBeCloseTo(60);
  });

  it('keeps every minute, whatever the zone, and finds the busiest hour', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            from: fc.integer({ min: Date.UTC(2026, 0), max: Date.UTC(2026, 11) }),
            length: fc.integer({ min: 0, max: 5 * HOUR_MS }),
            share: fc.double({ min: 0, max: 1, noNaN: true }),
          }),
          { maxLength: 20 },
        ),
        fc.constantFrom('Europe/Lisbon', 'America/Santiago', 'Australia/Lord_Howe', 'UTC'),
        (list, zone) => {
          const stretches = list.map((s) => ({
            from: s.from,
            until: s.from + s.length,
            seconds: (s.length / 1000) * s.share,
          }));
          const grid = hoursOfWeek(stretches, zone);
          expect(total(grid)).toBeCloseTo(stretches.reduce((sum, s) => sum + s.seconds, 0) / 60, 4);
          const top = busiest(grid);
          if (top) expect(grid[top.day]![top.hour]).toBe(Math.max(...grid.flat()));
        },
      ),
    );
  });
});
