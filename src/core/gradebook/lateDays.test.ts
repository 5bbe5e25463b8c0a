import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY_MS, HOUR_MS } from '../units';
import { lateDays } from './lateDays';

const lisbon = (due: string, submitted: string) =>
  lateDays(Date.parse(due), Date.parse(submitted), 'Europe/Lisbon');

describe('started days of lateness', () => {
  it('end at the time of day at which the work was due', () => {
    expect(lisbon('2026-11-02T17:00:00Z', '2026-11-02T17:00:01Z')).toBe(1);
    expect(lisbon('2026-11-02T17:00:00Z', '2026-11-03T17:00:00Z')).toBe(1);
    expect(lisbon('2026-11-02T17:00:00Z', '2026-11-03T17:00:01Z')).toBe(2);
  });
  it('have 25 hours where summer time ends, and 23 where it begins (Directive 2000/84/EC)', () => {
    // Due on Saturday at 17:00; on Sunday, 25 October 2026, the clock goes back an hour.
    expect(lisbon('2026-10-24T16:00:00Z', '2026-10-25T17:00:00Z')).toBe(1);
    expect(lisbon('2026-10-24T16:00:00Z', '2026-10-25T17:00:01Z')).toBe(2);
    // On 28 March 2027 it goes forward.
    expect(lisbon('2027-03-27T17:00:00Z', '2027-03-28T16:00:00Z')).toBe(1);
    expect(lisbon('2027-03-27T17:00:00Z', '2027-03-28T16:00:01Z')).toBe(2);
  });
  it('are those of 24 hours in a zone without summer time, and never an hour further off', () => {
    const due = fc.integer({ min: Date.parse('2026-01-01'), max: Date.parse('2027-12-31') });
    const late = fc.integer({ min: 1, max: 40 * DAY_MS });
    fc.assert(
      fc.property(due, late, (at, by) => {
        expect(lateDays(at, at + by, 'UTC')).toBe(Math.ceil(by / DAY_MS));
        const local = lateDays(at, at + by, 'Europe/Lisbon');
        expect(local).toBeGreaterThanOrEqual(Math.max(1, Math.ceil((by - HOUR_MS) / DAY_MS)));
        expect(local).toBeLessThanOrEqual(Math.ceil((by + HOUR_MS) / DAY_MS));
      }),
    );
  });
});
