import { describe, expect, it } from 'vitest';
import { shareBefore } from './partOfDay';

const ZONE = 'Europe/Lisbon';
/** A session on the day the clocks went back there, 25 October 2026 (tz database). */
const session = (from: string, until: string, minutes: number) => ({
  from: Date.parse(from),
  until: Date.parse(until),
  seconds: minutes * 60,
});

describe('the part of a day up to a time of its clock', () => {
  const day = '2026-11-18';
  const sessions = [
    session('2026-11-17T23:30:00Z', '2026-11-18T00:30:00Z', 60),
    session('2026-11-18T09:00:00Z', '2026-11-18T11:00:00Z', 60),
    session('2026-11-18T20:00:00Z', '2026-11-18T20:30:00Z', 30),
  ];
  it('is the time of the sessions before it, over all of the day', () => {
    // 30 minutes after midnight, 60 in the morning, 30 in the evening.
    expect(shareBefore(sessions, day, 10 * 60, ZONE)).toBeCloseTo((30 + 30) / 120, 12);
    expect(shareBefore(sessions, day, 24 * 60, ZONE)).toBe(1);
    expect(shareBefore(sessions, day, 0, ZONE)).toBe(0);
    expect(shareBefore([], day, 600, ZONE)).toBe(1);
  });
  it('goes by the clock on a day of 25 hours', () => {
    const two = [
      session('2026-10-24T23:00:00Z', '2026-10-25T00:00:00Z', 60),
      session('2026-10-25T10:00:00Z', '2026-10-25T11:00:00Z', 60),
    ];
    // Noon in Lisbon is 12:00 UTC by then, eleven is 11:00 UTC.
    expect(shareBefore(two, '2026-10-25', 10 * 60, ZONE)).toBe(0.5);
    expect(shareBefore(two, '2026-10-25', 10 * 60 + 30, ZONE)).toBe(0.75);
  });
});
