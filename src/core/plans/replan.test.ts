import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planPart, planStep } from '../../../tests/support/plans';
import { addDays, weekday } from '../calendar/zone';
import type { PlanPart, StepView } from './plan';
import { replanWords } from './planWords';
import { busyOf, replan, type BusyDay, type PlanSetting } from './replan';
import { REVIEW_PART } from './reviews';

const FROM = '2026-11-25';
const TERM = { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] };
const setting = (over: Partial<PlanSetting> = {}): PlanSetting => ({
  from: FROM,
  today: FROM,
  times: { minutesPerDay: 30, weekdaysOff: [] },
  term: TERM,
  dueOf: () => null,
  ...over,
});
const days = (
  steps: readonly StepView[],
  over: Partial<PlanSetting> = {},
  parts: readonly PlanPart[] = [],
) => {
  const found = replan(parts, steps, setting(over));
  if (!found.ok) throw new Error(found.reason);
  return found.value;
};

describe('a plan that is made anew', () => {
  it('by hand: 30 minutes a day, no Thursday; what is due goes first, and what is done stays', () => {
    const steps = [
      planStep({ id: 1, doneAt: 1 }),
      planStep({ id: 2 }),
      planStep({ id: 3, activityId: 7 }),
      planStep({ id: 4, minutes: 10 }),
    ];
    const dueOf = () => FROM;
    const found = days(steps, { times: { minutesPerDay: 30, weekdaysOff: [4] }, dueOf });
    // The second prepares for the third, which is due, and goes before it.
    expect([...found.on]).toEqual([
      [2, '2026-11-25'],
      [4, '2026-11-25'],
      [3, '2026-11-27'],
    ]);
    const none = days(steps, { times: { minutesPerDay: 20, weekdaysOff: [] }, dueOf });
    expect([none.order, none.late]).toEqual([[2, 3, 4], [3]]);
    expect(replanWords(steps, none, 'you cannot today')).toBe(
      '2 steps moved, since you cannot today; the last is now on Fri 27 Nov. Not in time for its due date: “Step 3” (now Thu 26 Nov).',
    );
    // What was overdue before is no news.
    expect(days(steps, { from: '2026-11-27', dueOf }).late).toEqual([]);
  });
  it('keeps what is pinned, and a lesson, where it is; a pin before today is left alone', () => {
    const steps = [
      planStep({ id: 1 }),
      planStep({ id: 2, pinned: true, on: '2026-11-26' }),
      planStep({ id: 3, lessonAt: 1, on: '2026-11-20' }),
      planStep({ id: 4 }),
    ];
    expect(Object.fromEntries(days(steps).on)).toEqual({
      1: '2026-11-25',
      2: '2026-11-26',
      3: '2026-11-20',
      4: '2026-11-27',
    });
  });
  it('counts what was done today, leaves breaks free, and says what lies outside the term', () => {
    const steps = [planStep({ id: 1, doneAt: 5 }), planStep({ id: 2 })];
    expect(days(steps, { doneOn: () => FROM }).on.get(2)).toBe('2026-11-26');
    const breaks = [{ name: 'Reading days', from: FROM, to: '2027-01-10' }];
    const late = days(steps, { term: { ...TERM, breaks } });
    expect([late.on.get(2), late.afterTerm]).toEqual(['2027-01-11', [2]]);
    expect(replanWords(steps, late, 'a day was missed')).toContain('1 step lies outside the term.');
  });
  it('shares the minutes of a day with the other plans of the student, made one after the other', () => {
    const steps = [planStep({ id: 1 }), planStep({ id: 2, doneAt: 1 }), planStep({ id: 3, optional: true })];
    expect(busyOf([{ steps }])).toEqual([{ on: FROM, minutes: 20 }]);
    expect(days([planStep({ id: 9 })], { busy: busyOf([{ steps }]) }).on.get(9)).toBe('2026-11-26');
    const minutes = fc.array(fc.integer({ min: 5, max: 30 }), { maxLength: 8 });
    fc.assert(
      fc.property(fc.array(minutes, { maxLength: 4 }), (plans) => {
        const busy: BusyDay[] = [];
        for (const list of plans) {
          const own = list.map((m, i) => planStep({ id: i + 1, minutes: m }));
          const { on } = days(own, { busy });
          busy.push(...own.map((s) => ({ on: on.get(s.id)!, minutes: s.minutes })));
        }
        for (const day of new Set(busy.map((b) => b.on)))
          expect(busy.filter((b) => b.on === day).reduce((sum, b) => sum + b.minutes, 0)).toBeLessThanOrEqual(
            30,
          );
      }),
    );
  });
  it('keeps an order that is fixed, and puts nothing before what its outcomes rest on', () => {
    const parts = [planPart({ order: 'fixed' })];
    const steps = [
      planStep({ id: 1, part: 'lane 1', minutes: 30 }),
      planStep({ id: 2, part: 'lane 1', minutes: 5, activityId: 9 }),
    ];
    // The second is due and short, and still comes after.
    expect(days(steps, { dueOf: () => FROM }, parts).order).toEqual([1, 2]);
    const rests = days([planStep({ id: 1, activityId: 1 }), planStep({ id: 2, activityId: 2 })], {
      restsOn: (a, b) => a === 1 && b === 2,
    });
    expect(rests.order).toEqual([2, 1]);
  });
  it('gives reviews a day each, the first first, and what is there to choose the last day of its part', () => {
    const steps = [
      planStep({ id: 1, part: 'lane 1', minutes: 25 }),
      planStep({ id: 2, part: 'lane 1', minutes: 25, optional: true }),
      planStep({ id: 3, part: REVIEW_PART, minutes: 10 }),
      planStep({ id: 4, part: REVIEW_PART, minutes: 10 }),
    ];
    expect(Object.fromEntries(days(steps, {}, [planPart()]).on)).toEqual({
      1: '2026-11-27',
      2: '2026-11-27',
      3: '2026-11-25',
      4: '2026-11-26',
    });
  });
  it('never touches what is done, nor puts anything before its day, on a day off, over the minutes or out of order', () => {
    const some = fc.record({
      minutes: fc.integer({ min: 5, max: 60 }),
      done: fc.boolean(),
      pinned: fc.option(fc.integer({ min: 0, max: 9 })),
      part: fc.constantFrom('lane 1', 'lane 2', null),
    });
    fc.assert(
      fc.property(
        fc.array(some, { maxLength: 20 }),
        fc.integer({ min: 10, max: 90 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { maxLength: 6 }),
        fc.integer({ min: 0, max: 60 }),
        (all, minutesPerDay, weekdaysOff, shift) => {
          const from = addDays(FROM, shift);
          const steps = all.map(({ minutes, done, pinned, part }, i) =>
            planStep({
              id: i + 1,
              minutes,
              part,
              doneAt: done ? 1 : null,
              pinned: pinned != null,
              on: addDays(from, pinned ?? 0),
            }),
          );
          const parts = [planPart({ key: 'lane 1', order: 'fixed' }), planPart({ key: 'lane 2' })];
          const { on, order } = days(steps, { from, times: { minutesPerDay, weekdaysOff } }, parts);
          const open = steps.filter((s) => s.doneAt == null);
          expect([...on.keys()].sort()).toEqual(open.map((s) => s.id).sort());
          expect(order.toSorted()).toEqual(open.map((s) => s.id).toSorted());
          const free = open.filter((s) => !s.pinned);
          for (const s of open.filter((p) => p.pinned)) expect(on.get(s.id)).toBe(s.on);
          for (const s of free) {
            const day = on.get(s.id)!;
            expect(day >= from).toBe(true);
            expect(weekdaysOff).not.toContain(weekday(day));
            const together = open.filter((t) => on.get(t.id) === day);
            if (together.length > 1 && together.every((t) => !t.pinned))
              expect(together.reduce((sum, t) => sum + t.minutes, 0)).toBeLessThanOrEqual(minutesPerDay);
          }
          const fixed = free.filter((s) => s.part === 'lane 1').map((s) => s.id);
          const inLane = open.filter((s) => s.part === 'lane 1').map((s) => s.id);
          if (fixed.length === inLane.length)
            expect(order.filter((id) => inLane.includes(id))).toEqual(inLane);
        },
      ),
    );
  });
});
