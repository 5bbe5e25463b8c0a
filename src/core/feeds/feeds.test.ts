import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { localDate, minuteOfDay, weekday } from '../calendar/zone';
import { DAY_MS } from '../units';
import { daysText, FEED_DAYS, lastLook, nextLook } from './schedule';
import { unlike, type FileShape } from './shape';

const zone = 'Europe/Berlin';
const at = (text: string) => Date.parse(text);

describe('when files are looked for', () => {
  it('is at the time on the wall, on the days that were chosen, through changes of the clock', () => {
    const morning = { days: 'weekdays', minute: 6 * 60 } as const;
    // Friday, over the weekend on which summer time ends in 2026, to Monday.
    expect(nextLook(morning, at('2026-10-23T03:59:00Z'), zone)).toBe(at('2026-10-23T04:00:00Z'));
    expect(nextLook(morning, at('2026-10-23T04:00:00Z'), zone)).toBe(at('2026-10-26T05:00:00Z'));
    expect(lastLook(morning, at('2026-10-26T05:00:00Z'), zone)).toBe(at('2026-10-23T04:00:00Z'));
    expect(FEED_DAYS.map(daysText).slice(0, 4)).toEqual([
      'every day',
      'Monday to Friday',
      'every Monday',
      'every Tuesday',
    ]);
  });

  it('lies ahead, and the last before the next is never after it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...FEED_DAYS),
        fc.integer({ min: 4 * 60, max: 24 * 60 - 1 }),
        fc.integer({ min: at('2026-01-01T00:00:00Z'), max: at('2027-12-31T00:00:00Z') }),
        fc.constantFrom('Europe/Lisbon', 'America/St_Johns', 'Pacific/Auckland', 'Asia/Kolkata'),
        (days, minute, now, where) => {
          const next = nextLook({ days, minute }, now, where);
          expect(next).toBeGreaterThan(now);
          expect(next - now).toBeLessThanOrEqual(7 * DAY_MS + 3_600_000);
          expect(minuteOfDay(next, where)).toBe(minute);
          const day = weekday(localDate(next, where));
          if (days === 'weekdays') expect(day).toBeLessThanOrEqual(5);
          else if (days !== 'daily') expect(day).toBe(Number(days));
          expect(lastLook({ days, minute }, next, where)).toBeLessThanOrEqual(now);
          expect(nextLook({ days, minute }, next - 1, where)).toBe(next);
        },
      ),
    );
  });
});

describe('a file that looks unlike the last', () => {
  const part = (over: Partial<FileShape['parts'][number]> = {}) => ({
    kind: 'gradebook' as const,
    columns: ['student_id', 'activity_id', 'points'],
    rows: 300,
    astray: 0,
    known: 300,
    ...over,
  });
  const shape = (...parts: FileShape['parts'][number][]): FileShape => ({ parts });
  const last = shape(part());

  it('is like it when it is the same, longer, or less than a third shorter', () => {
    for (const rows of [200, 201, 300, 3000]) expect(unlike(last, shape(part({ rows })))).toEqual([]);
  });
  it.each([
    ['a third fewer rows', part({ rows: 199 }), 'It has 199 of the 300 rows of the last (gradebook).'],
    ['a column more', part({ columns: [...part().columns, 'excused'] }), 'A column is new: “excused”.'],
    ['a column less', part({ columns: ['student_id', 'points'] }), 'A column is missing: “activity_id”.'],
    [
      'another course',
      part({ astray: 151 }),
      '151 of its 300 rows are about people or work that this course does not have. Is it of another course?',
    ],
    ['another kind beside it', part({ kind: 'roster' }), 'It brings no gradebook any more, as the last did.'],
  ])('%s', (_, now, reason) => expect(unlike(last, shape(now))[0]).toBe(reason));

  it('says nothing of the length of a file that holds only what is new', () => {
    const log = part({ kind: 'events', known: 0 });
    expect(unlike(shape(log), shape({ ...log, rows: 2 }))).toEqual([]);
    expect(unlike(shape(log), shape({ ...log, rows: 100, known: 80 }))).toHaveLength(1);
  });
  it('never finds a file unlike itself', () => {
    const any = fc.record({
      kind: fc.constantFrom('gradebook' as const, 'roster' as const, 'events' as const),
      columns: fc.uniqueArray(fc.string(), { maxLength: 6 }),
      rows: fc.nat(5000),
      astray: fc.nat(5000),
      known: fc.nat(5000),
    });
    fc.assert(
      fc.property(any, (p) => {
        expect(unlike(shape(p), shape(p))).toEqual([]);
      }),
    );
  });
});
