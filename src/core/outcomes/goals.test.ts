import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone';
import { levelChange } from './changed';
import { goalLead, goalPlace, goalProgress, nextGoal, type Goal } from './goals';

const goal: Goal = { id: 1, outcomes: [1, 2, 3, 4], from: '2026-11-02', by: '2026-11-29' };
const set = (...ids: number[]) => new Set(ids);

describe('how far somebody is with a goal', () => {
  it('by hand: two of four secure after two weeks, two weeks to go', () => {
    expect(goalProgress(goal, set(1, 2, 9), set(1), '2026-11-16')).toEqual({
      of: 4,
      secure: 2,
      pace: 1,
      newly: 0.5,
    });
  });
  it('takes off what was lost again', () => {
    expect(goalProgress(goal, set(2), set(1, 3), '2026-11-16').newly).toBe(-0.5);
  });
  it('does not say what is newly secure in the first week, nor a pace once the day is over', () => {
    expect(goalProgress(goal, set(1), set(), '2026-11-08').newly).toBeNull();
    expect(goalProgress(goal, set(1), set(), '2026-11-30').pace).toBeNull();
    expect(goalProgress(goal, set(1, 2, 3, 4), set(), '2026-12-30').pace).toBe(0);
  });
  it('keeping the pace reaches it on its day', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 27 }), fc.integer({ min: 0, max: 4 }), (day, secure) => {
        const today = addDays(goal.from, day);
        const { pace } = goalProgress(goal, new Set([1, 2, 3, 4].slice(0, secure)), set(), today);
        const days = 28 - day;
        expect(secure + (pace! * days) / 7).toBeCloseTo(4, 9);
      }),
    );
  });
});

describe('where somebody is with a goal', () => {
  it.each([
    [{ secure: 4, pace: 0, newly: 0 }, 'there'],
    [{ secure: 1, pace: 1, newly: null }, 'too early'],
    [{ secure: 1, pace: 1, newly: 1 }, 'fast enough'],
    [{ secure: 1, pace: 1, newly: 0.9 }, 'too slow'],
    [{ secure: 1, pace: null, newly: 3 }, 'too slow'],
  ] as const)('%j is %s', (progress, place) => {
    expect(goalPlace({ of: 4, ...progress })).toBe(place);
  });
  it('is ahead by what is newly secure less what it takes', () => {
    expect([goalLead({ newly: 2, pace: 1.5 }), goalLead({ newly: null, pace: 1 })]).toEqual([0.5, null]);
  });
});

describe('the goal that counts', () => {
  it('is the one due next, else the last', () => {
    const other = { ...goal, id: 2, by: '2026-12-20' };
    expect(nextGoal([other, goal], '2026-11-10')!.id).toBe(1);
    expect(nextGoal([other, goal], '2026-12-01')!.id).toBe(2);
    expect(nextGoal([other, goal], '2027-01-01')!.id).toBe(2);
    expect(nextGoal([], '2026-11-10')).toBeNull();
  });
});

describe('what became of a level', () => {
  it.each([
    ['developing', 'secure', true, 'newly secure'],
    ['too little data', 'secure', false, 'newly secure'],
    ['secure', 'developing', true, 'slipped'],
    ['secure', 'too little data', false, 'slipped'],
    ['not yet', 'developing', true, 'still learning'],
    ['not yet', 'not yet', false, null],
    ['secure', 'secure', true, null],
  ] as const)('from %s to %s (asked: %s) is %s', (before, after, asked, what) => {
    expect(levelChange(before, after, asked)).toBe(what);
  });
});
