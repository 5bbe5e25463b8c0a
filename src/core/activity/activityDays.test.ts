import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayGrid } from '../calendar/dayGrid';
import { MINUTE_MS } from '../units';
import { activityDays } from './activityDays';
import { attemptMinutes, type WorkEvent } from './attemptMinutes';
import { dayTotals } from './dayTotals';
import { type EventColumns } from './events';
import { ROLE } from '../course/kinds';
import { sessionize } from './sessions';
import { settledFrom } from './settle';

const START = Date.parse('2026-10-24T18:00:00Z');
const ZONE = 'Europe/Lisbon';

interface Row {
  readonly student: number;
  readonly minute: number;
  readonly activity: number;
  readonly role: number;
}

function columns(list: readonly Row[]): EventColumns & { activity: Int32Array } {
  const count = list.length;
  const c = {
    count,
    studentCount: 3,
    student: Int32Array.from(list, (r) => r.student),
    at: Float64Array.from(list, (r) => START + r.minute * MINUTE_MS),
    kind: new Uint8Array(count),
    login: new Uint8Array(count),
    duration: null,
    role: Uint8Array.from(list, (r) => r.role),
    activity: Int32Array.from(list, (r) => r.activity),
  };
  return c;
}

const anyRow: fc.Arbitrary<Row> = fc.record({
  student: fc.integer({ min: 0, max: 2 }),
  // Over the night in which the clocks go back, so that days of 25 hours are cut too.
  minute: fc.integer({ min: 0, max: 3 * 24 * 60 }),
  activity: fc.integer({ min: 0, max: 4 }),
  role: fc.constantFrom(ROLE.view, ROLE.contribution),
});
const grid = dayGrid(START, START + 5 * 24 * 60 * MINUTE_MS, ZONE);

describe('days of each activity', () => {
  it('add up to the days, in any order of the input', () => {
    fc.assert(
      fc.property(
        fc.array(anyRow, { maxLength: 60 }),
        fc.array(fc.nat(), { maxLength: 60 }),
        (list, keys) => {
          const meeting = [{ from: START + 60 * MINUTE_MS, until: START + 180 * MINUTE_MS }];
          const of = (rows: readonly Row[]) => {
            const c = columns(rows);
            const cut = sessionize(c, { gapMinutes: 30, last: 'own' });
            return {
              works: activityDays(c, c.activity, cut, grid, () => meeting),
              days: dayTotals(c, cut, grid, () => meeting),
            };
          };
          const { works, days } = of(list);
          const sum = (rows: readonly { student: number; date: string }[], pick: string) => {
            const totals: Record<string, number> = {};
            for (const r of rows) {
              const key = `${r.student} ${r.date}`;
              totals[key] = (totals[key] ?? 0) + (r as unknown as Record<string, number>)[pick]!;
            }
            return Object.fromEntries(
              Object.entries(totals)
                .sort()
                .map(([k, v]) => [k, Math.round(v * 1000)]),
            );
          };
          for (const pick of ['seconds', 'inClassSeconds', 'views', 'contributions'])
            expect(sum(works, pick)).toEqual(sum(days, pick));
          const shuffled = list.map((r, i) => ({ r, k: keys[i] ?? i })).sort((a, b) => a.k - b.k);
          const again = of(shuffled.map((s) => s.r)).works;
          expect(sum(again, 'seconds')).toEqual(sum(works, 'seconds'));
        },
      ),
    );
  });
});

describe('what is settled of a student', () => {
  const spread: fc.Arbitrary<Row> = fc.record({
    student: fc.integer({ min: 0, max: 2 }),
    minute: fc.integer({ min: 0, max: 12 * 24 * 60 }),
    activity: fc.constant(0),
    role: fc.constant(ROLE.view),
  });
  it('ends where a session starts at every limit, two days before the last event', () => {
    let found = 0;
    fc.assert(
      fc.property(fc.array(spread, { minLength: 10, maxLength: 80 }), (list) => {
        const c = columns(list);
        const { order } = sessionize(c, { gapMinutes: 45, last: 'zero' });
        for (let s = 0; s < 3; s++) {
          const [from, until] = [order.offsets[s]!, order.offsets[s + 1]!];
          const p = settledFrom(c, order, s, 45, order.at[from] ?? 0);
          if (p == null) continue;
          found++;
          expect(p).toBeGreaterThan(from);
          expect(order.at[p]!).toBeLessThanOrEqual(order.at[until - 1]! - 2 * 24 * 60 * MINUTE_MS);
          for (const gapMinutes of [10, 30, 45, 60])
            expect(sessionize(c, { gapMinutes, last: 'zero' }).dwells.starts[p]).toBe(1);
        }
      }),
    );
    // Far below what is usual, so that it asks only whether there was anything to look at.
    expect(found).toBeGreaterThan(20);
  });
  it('is nothing before five days have gone by', () => {
    const c = columns(
      [0, 1, 4 * 24 * 60].map((minute) => ({ student: 0, minute, activity: 0, role: ROLE.view })),
    );
    const { order } = sessionize(c, { gapMinutes: 30, last: 'zero' });
    expect(settledFrom(c, order, 0, 30, START)).toBeNull();
    expect(settledFrom(c, order, 1, 30, START)).toBeNull();
  });
});

describe('minutes of attempts', () => {
  const event = (minute: number, onWork: boolean, known: Partial<WorkEvent> = {}): WorkEvent => ({
    at: minute * MINUTE_MS,
    onWork,
    login: false,
    duration: null,
    ...known,
  });
  it('go to the attempt that follows, up to the next event of the sitting', () => {
    const events = [
      event(0, true),
      event(10, false),
      event(12, true),
      event(20, true),
      event(60, true),
      event(61, false),
    ];
    // 0-10 and 12-20 before the first; 20-60 is a gap over the limit; 60-61 before the second.
    expect(attemptMinutes(events, [20 * MINUTE_MS, 61 * MINUTE_MS], 30)).toEqual([18, 1]);
  });
  it('end at a login and count a stated duration if it is shorter', () => {
    expect(attemptMinutes([event(0, true), event(5, false, { login: true })], [9 * MINUTE_MS], 30)).toEqual([
      0,
    ]);
    expect(attemptMinutes([event(0, true, { duration: 60 }), event(5, false)], [9 * MINUTE_MS], 30)).toEqual([
      1,
    ]);
    expect(attemptMinutes([], [], 30)).toEqual([]);
  });
});
