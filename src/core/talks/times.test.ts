import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MINUTE_MS } from '../units';
import { daysOfTimes, seatsLeft, slotsOf, type TalkTimes } from './times';

const term = {
  zone: 'Europe/Berlin',
  start: '2026-09-21',
  weeks: 16,
  breaks: [{ name: 'Autumn break', from: '2026-10-12', to: '2026-10-16' }],
};
const tuesdays: TalkTimes = {
  repeat: 'weekly',
  firstOn: '2026-09-29',
  lastOn: '2026-12-15',
  from: 14 * 60,
  until: 15 * 60,
  minutes: 20,
  seats: 1,
  except: ['2026-10-27'],
};

describe('the days of times', () => {
  it('come each week, without breaks and exceptions', () => {
    expect(daysOfTimes(tuesdays, term, '2026-10-01', '2026-11-05')).toEqual([
      '2026-10-06',
      '2026-10-20',
      '2026-11-03',
    ]);
  });
  it('keep the weeks of the first day when they come every two', () => {
    const times = { ...tuesdays, repeat: 'every two weeks' as const, except: [] };
    expect(daysOfTimes(times, term, '2026-10-07', '2026-11-12')).toEqual(['2026-10-27', '2026-11-10']);
  });
  it('come once, whatever the last day says', () => {
    const once = { ...tuesdays, repeat: 'once' as const };
    expect(daysOfTimes(once, term, '2026-09-01', '2026-12-31')).toEqual(['2026-09-29']);
    expect(daysOfTimes(once, term, '2026-09-30', '2026-12-31')).toEqual([]);
  });
  it('end with the last day, which counts', () => {
    expect(daysOfTimes(tuesdays, term, '2026-12-08', '2027-01-31')).toEqual(['2026-12-08', '2026-12-15']);
  });
});

describe('slots', () => {
  it('follow one another, and what is too short at the end is none', () => {
    const slots = slotsOf({ ...tuesdays, until: 14 * 60 + 50 }, term, '2026-12-01', '2026-12-01');
    expect(slots.map((s) => new Date(s.startsAt).toISOString())).toEqual([
      '2026-12-01T13:00:00.000Z',
      '2026-12-01T13:20:00.000Z',
    ]);
  });
  it('stay at the time on the wall when the clocks go back', () => {
    const before = slotsOf(tuesdays, term, '2026-10-20', '2026-10-20')[0]!;
    const after = slotsOf(tuesdays, term, '2026-11-03', '2026-11-03')[0]!;
    expect(new Date(before.startsAt).toISOString()).toBe('2026-10-20T12:00:00.000Z');
    expect(new Date(after.startsAt).toISOString()).toBe('2026-11-03T13:00:00.000Z');
  });
  it('of the hour that is skipped in spring are left out, and none overlap', () => {
    const night = { ...tuesdays, repeat: 'once' as const, firstOn: '2027-03-28', from: 60, until: 240 };
    const slots = slotsOf({ ...night, minutes: 30 }, { ...term, breaks: [] }, '2027-03-28', '2027-03-28');
    // 01:00 and 01:30 in winter time, then 03:00 and 03:30 in summer time.
    expect(slots.map((s) => new Date(s.startsAt).toISOString().slice(11, 16))).toEqual([
      '00:00',
      '00:30',
      '01:00',
      '01:30',
    ]);
  });
  it('never overlap, and all have the length of a talk', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1400 }),
        fc.integer({ min: 5, max: 180 }),
        fc.integer({ min: 5, max: 120 }),
        fc.constantFrom('2027-03-28', '2026-10-25', '2026-12-01'),
        (from, span, minutes, on) => {
          const times = {
            ...tuesdays,
            repeat: 'once' as const,
            firstOn: on,
            from,
            until: from + span,
            minutes,
          };
          const slots = slotsOf(times, { ...term, breaks: [] }, on, on);
          expect(slots.length).toBeLessThanOrEqual(Math.floor(span / minutes));
          slots.forEach((slot, i) => {
            expect(slot.endsAt - slot.startsAt).toBe(minutes * MINUTE_MS);
            if (i > 0) expect(slot.startsAt).toBeGreaterThanOrEqual(slots[i - 1]!.endsAt);
          });
        },
      ),
    );
  });
});

describe('seats left', () => {
  const [first, second] = slotsOf(tuesdays, term, '2026-12-01', '2026-12-01');
  it('are those that nobody has taken', () => {
    expect(seatsLeft(first!, 3, [])).toBe(3);
    expect(seatsLeft(first!, 3, [first!, second!])).toBe(2);
    expect(seatsLeft(first!, 1, [first!])).toBe(0);
    // Fewer seats than are booked, after a change.
    expect(seatsLeft(first!, 1, [first!, first!])).toBe(0);
  });
  it('are none while the instructor is in another talk', () => {
    const other = { startsAt: first!.startsAt - 10 * MINUTE_MS, endsAt: first!.startsAt + MINUTE_MS };
    expect(seatsLeft(first!, 3, [other])).toBe(0);
    expect(seatsLeft(second!, 3, [other])).toBe(3);
  });
});
