import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, weekday } from '../calendar/zone';
import { replan, replanWords } from './replan';

const FROM = '2026-11-25';
const step = (id: number, minutes: number, done = false, activityId: number | null = null) => ({
  id,
  title: `Step ${id}`,
  minutes,
  doneAt: done ? 1 : null,
  activityId,
  on: FROM,
});

describe('a plan that is made anew', () => {
  it('by hand: 30 minutes a day, no Thursday; what is due goes first, and what is done stays', () => {
    const steps = [step(1, 20, true), step(2, 20), step(3, 20, false, 7), step(4, 10)];
    const found = replan(steps, FROM, { minutesPerDay: 30, weekdaysOff: [4] }, () => '2026-11-25');
    // The second prepares for the third, which is due, and goes before it.
    expect(found.ok && [...found.value.on]).toEqual([
      [2, '2026-11-25'],
      [4, '2026-11-25'],
      [3, '2026-11-27'],
    ]);
    const none = replan(steps, FROM, { minutesPerDay: 20, weekdaysOff: [] }, () => '2026-11-25');
    expect(none.ok && [none.value.order, none.value.late]).toEqual([[2, 3, 4], [3]]);
    expect(none.ok && replanWords(steps, none.value, 'you cannot today')).toBe(
      '2 steps moved, since you cannot today; the last is now on Fri 27 Nov. “Step 3” is later than due: it does not all fit.',
    );
    // What was overdue before is no news.
    const late = replan(steps, '2026-11-27', { minutesPerDay: 20, weekdaysOff: [] }, () => '2026-11-25');
    expect(late.ok && late.value.late).toEqual([]);
  });
  it('never touches what is done, nor puts anything before its day, on a day off, or over the minutes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ minutes: fc.integer({ min: 5, max: 60 }), done: fc.boolean() }), {
          maxLength: 20,
        }),
        fc.integer({ min: 10, max: 90 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { maxLength: 6 }),
        fc.integer({ min: 0, max: 300 }),
        (all, minutesPerDay, weekdaysOff, shift) => {
          const from = addDays(FROM, shift);
          const steps = all.map((s, i) => step(i + 1, s.minutes, s.done));
          const found = replan(steps, from, { minutesPerDay, weekdaysOff }, () => null);
          if (!found.ok) throw new Error(found.reason);
          const { on } = found.value;
          expect([...on.keys()].sort()).toEqual(
            steps
              .filter((s) => s.doneAt == null)
              .map((s) => s.id)
              .sort(),
          );
          const used = new Map<string, number[]>();
          for (const [id, day] of on) {
            expect(day >= from).toBe(true);
            expect(weekdaysOff).not.toContain(weekday(day));
            used.set(day, [...(used.get(day) ?? []), steps.find((s) => s.id === id)!.minutes]);
          }
          for (const list of used.values())
            if (list.length > 1)
              expect(list.reduce((sum, m) => sum + m, 0)).toBeLessThanOrEqual(minutesPerDay);
        },
      ),
    );
  });
});
