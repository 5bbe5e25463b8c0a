import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rows, truth } from '../../../tests/support/reference';
import { dayGrid } from '../calendar/dayGrid';
import type { Span } from '../calendar/meetings';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../units';
import { dayTotals } from './dayTotals';
import { typicalDwells, type SessionOptions } from './dwell';
import { dropDuplicates, toColumns, type StudentEvent } from './events';
import { orderEvents } from './order';
import { sessionize } from './sessions';

const START = Date.parse('2026-10-24T20:00:00Z');
const event = (minutes: number, over: Partial<StudentEvent> = {}): StudentEvent => ({
  id: null,
  student: 'a',
  at: START + minutes * MINUTE_MS,
  kind: 'view',
  duration: null,
  ...over,
});
const cut = (events: StudentEvent[], options: Partial<SessionOptions> = {}) =>
  sessionize(toColumns(events).columns, { gapMinutes: 30, last: 'zero', ...options }).sessions;
const seconds = (events: StudentEvent[], options: Partial<SessionOptions> = {}) =>
  [...cut(events, options).seconds].reduce((t, s) => t + s, 0);

describe('cutting', () => {
  it('keeps a gap of exactly the limit, and cuts one a second longer', () => {
    const expected = truth<{
      strictGreater: { n: number; start: number[]; end: number[]; events: number[] };
    }>('sessions-boundary').strictGreater;
    const times = rows('events-boundary.csv').map((r) => r[0]!);
    const sessions = cut(times.map((s) => event(s / 60)));
    const relative = (at: number) => (at - START) / 1000;
    expect(sessions.count).toBe(expected.n);
    expect([...sessions.start].map(relative)).toEqual(expected.start);
    expect([...sessions.end].map(relative)).toEqual(expected.end);
    expect([...sessions.events]).toEqual(expected.events);
  });
  it('starts a session at a login, however short the gap', () => {
    expect(cut([event(0), event(1), event(2, { kind: 'login' }), event(3)]).count).toBe(2);
  });
  it('takes a stated duration if it is shorter than the gap, never if longer', () => {
    expect(seconds([event(0, { duration: 60 }), event(10)])).toBe(60);
    expect(seconds([event(0, { duration: 6000 }), event(10)])).toBe(600);
  });
  it('drops what has the same id, whichever comes first', () => {
    const twice = [event(0, { id: 'x' }), event(5, { id: 'x' }), event(9, { id: 'y' })];
    expect(dropDuplicates(twice)).toHaveLength(2);
    expect(seconds(dropDuplicates(twice))).toBe(seconds(dropDuplicates([...twice].reverse())));
  });
  it('has nothing to say of nothing', () => expect(cut([]).count).toBe(0));
});

describe('the last event of a session', () => {
  const steady = (student: string, from: number, step: number, n: number) =>
    Array.from({ length: n }, (_, i) => event(from + i * step, { student }));
  it('gets the student’s own median dwell of its kind', () => {
    // Five dwells of 2 minutes, then the last: 2 more.
    expect(seconds(steady('a', 0, 2, 6), { last: 'own' })).toBe(12 * 60);
  });
  it('gets the class median if the student has fewer than five, and nothing if the class has', () => {
    const lonely = event(0, { student: 'b' });
    expect(seconds([...steady('a', 0, 2, 6), lonely], { last: 'own' })).toBe(14 * 60);
    expect(seconds([...steady('a', 0, 2, 4), lonely], { last: 'own' })).toBe(6 * 60);
  });
  it('never goes over the limit, past the next event or over its stated duration', () => {
    const slow = steady('a', 0, 20, 6);
    expect(seconds(slow, { last: 'own', gapMinutes: 5 })).toBe(6 * 5 * 60);
    const interrupted = [...steady('a', 0, 10, 6), event(53, { kind: 'login' })];
    // The session ends 3 minutes before the login; the login alone has no dwell known of its kind.
    expect(seconds(interrupted, { last: 'own' })).toBe(53 * 60);
    expect(seconds([...steady('a', 0, 10, 6), event(60, { duration: 30 })], { last: 'own' })).toBe(
      60 * 60 + 30,
    );
  });
  it('tells kinds apart', () => {
    const { columns } = toColumns([
      ...steady('a', 0, 2, 6),
      ...steady('a', 100, 9, 6).map((e) => ({ ...e, kind: 'watch' })),
    ]);
    const typical = typicalDwells(columns, orderEvents(columns));
    expect([typical(0, 0), typical(0, 1)]).toEqual([2 * MINUTE_MS, 9 * MINUTE_MS]);
  });
});

const arbitraryEvents = fc.array(
  fc.record({
    id: fc.option(fc.integer({ min: 0, max: 60 }).map(String), { nil: null }),
    student: fc.constantFrom('a', 'b', 'c'),
    at: fc.integer({ min: 0, max: 3 * 24 * 60 }).map((m) => START + m * MINUTE_MS),
    kind: fc.constantFrom('login', 'view', 'watch'),
    duration: fc.option(fc.integer({ min: 0, max: 4000 }), { nil: null }),
  }),
  { maxLength: 120 },
);
const lasts = fc.constantFrom<'own' | 'zero'>('own', 'zero');

describe('properties', () => {
  it('order of the input and exact duplicates change nothing', () => {
    fc.assert(
      fc.property(arbitraryEvents, lasts, fc.nat(), (events, last, turn) => {
        const known = events.map((e, i) => ({ ...e, id: e.id ?? `n${i}` }));
        const at = known.length === 0 ? 0 : turn % known.length;
        const turned = [...known.slice(at), ...known.slice(0, at)].reverse();
        const once = cut(dropDuplicates(known), { last });
        expect(cut(dropDuplicates([...turned, ...known]), { last })).toEqual(once);
      }),
    );
  });
  it('the total grows with the limit', () => {
    fc.assert(
      fc.property(
        arbitraryEvents,
        lasts,
        fc.integer({ min: 5, max: 119 }),
        fc.integer({ min: 1, max: 60 }),
        (events, last, gap, more) => {
          const small = seconds(events, { last, gapMinutes: gap });
          expect(seconds(events, { last, gapMinutes: gap + more })).toBeGreaterThanOrEqual(small - 1e-6);
        },
      ),
    );
  });
  it('no student is on task longer than the clock ran, and sessions do not overlap', () => {
    fc.assert(
      fc.property(arbitraryEvents, lasts, (events, last) => {
        const s = cut(events, { last });
        for (let i = 0; i < s.count; i++) {
          expect(s.seconds[i]! * 1000).toBeLessThanOrEqual(s.end[i]! - s.start[i]! + 1e-6);
          if (i > 0 && s.student[i] === s.student[i - 1])
            expect(s.start[i]).toBeGreaterThanOrEqual(s.end[i - 1]!);
        }
      }),
    );
  });
  it('one student’s sessions under “zero” do not depend on the others', () => {
    fc.assert(
      fc.property(arbitraryEvents, (events) => {
        const own = events.filter((e) => e.student === 'a');
        const alone = seconds(own);
        const all = toColumns(events);
        const among = sessionize(all.columns, { gapMinutes: 30, last: 'zero' }).sessions;
        let total = 0;
        for (let i = 0; i < among.count; i++)
          if (all.students[among.student[i]!] === 'a') total += among.seconds[i]!;
        expect(total).toBeCloseTo(alone, 6);
      }),
    );
  });
});

describe('day totals', () => {
  const zone = 'Europe/Lisbon';
  const totals = (events: StudentEvent[], meetings: Span[] = []) => {
    const { columns } = toColumns(events);
    const times = events.map((e) => e.at);
    const grid = dayGrid(Math.min(...times), Math.max(...times) + DAY_MS, zone);
    return dayTotals(columns, sessionize(columns, { gapMinutes: 30, last: 'zero' }), grid, () => meetings);
  };
  it('cut a dwell at local midnight', () => {
    // 23:50 to 00:10 in Lisbon, where the clock is an hour ahead of UTC on 24 October.
    const night = Date.parse('2026-10-24T22:50:00Z');
    const rows = totals([event(0, { at: night }), event(0, { at: night + 20 * MINUTE_MS })]);
    expect(rows.map((r) => [r.date, r.seconds, r.events])).toEqual([
      ['2026-10-24', 600, 1],
      ['2026-10-25', 600, 1],
    ]);
  });
  it('count every hour of a day of 25', () => {
    const from = Date.parse('2026-10-24T23:00:00Z');
    const steps = Array.from({ length: 51 }, (_, i) => event(0, { at: from + i * 30 * MINUTE_MS }));
    const rows = totals(steps);
    expect(rows[0]).toMatchObject({ date: '2026-10-25', seconds: 25 * 3600 });
  });
  it('split time by the meeting', () => {
    const meeting = { from: START + 10 * MINUTE_MS, until: START + 25 * MINUTE_MS };
    const [row] = totals([event(0), event(20), event(40)], [meeting]);
    expect([row!.seconds, row!.inClassSeconds]).toEqual([2400, 900]);
  });
  it('add up to the sessions', () => {
    fc.assert(
      fc.property(
        arbitraryEvents.filter((e) => e.length > 0),
        (events) => {
          const inMeetings = [{ from: START + HOUR_MS, until: START + 5 * HOUR_MS }];
          const rows = totals(events, inMeetings);
          const total = rows.reduce((t, r) => t + r.seconds, 0);
          expect(total).toBeCloseTo(seconds(events), 5);
          expect(rows.reduce((n, r) => n + r.events, 0)).toBe(events.length);
          for (const r of rows) expect(r.inClassSeconds).toBeLessThanOrEqual(r.seconds + 1e-9);
        },
      ),
    );
  });
});
