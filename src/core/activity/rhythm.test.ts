import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone';
import type { Term } from '../calendar/term';
import { rhythm } from './rhythm';

const term: Term = {
  zone: 'Europe/Lisbon',
  start: '2026-09-28',
  weeks: 15,
  breaks: [{ name: 'Reading week', from: '2026-11-09', to: '2026-11-15' }],
};
const every = (step: number, n: number, from = '2026-09-28') =>
  Array.from({ length: n }, (_, i) => addDays(from, i * step));

describe('rhythm', () => {
  it('knows the usual gap, the longest, and how unusual the present silence is', () => {
    const days = ['2026-09-28', '2026-09-30', '2026-10-02', '2026-10-06'];
    const r = rhythm(days, term.start, '2026-10-15', term);
    expect(r).toMatchObject({
      activeDays: 4,
      lastSeen: '2026-10-06',
      daysSince: 9,
      silence: 9,
      usualGap: 2,
      longestGap: 4,
    });
    expect(r.silenceQuantile).toBe(1);
    expect(rhythm(days, term.start, '2026-10-08', term).silenceQuantile).toBeCloseTo(1 / 3, 12);
  });
  it('does not count a break as silence', () => {
    const r = rhythm(['2026-11-06', '2026-11-07'], term.start, '2026-11-17', term);
    expect([r.daysSince, r.silence]).toEqual([10, 3]);
  });
  it('counts silence from the enrolment for who was never seen', () => {
    const r = rhythm([], '2026-10-01', '2026-10-09', term);
    expect(r).toMatchObject({
      lastSeen: null,
      daysSince: null,
      silence: 8,
      usualGap: null,
      silenceQuantile: null,
      weekdaySpread: null,
    });
  });
  it('spreads over weekdays from 0 to 1', () => {
    expect(rhythm(every(7, 5), term.start, '2026-11-01', term).weekdaySpread).toBe(0);
    expect(rhythm(every(1, 14), term.start, '2026-10-12', term).weekdaySpread).toBeCloseTo(1, 12);
  });
});
