import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faultOf } from '../forms/rules';
import { giveForm } from '../forms/give';
import { datesFault, decideGive, withMoreTime, type GivenDates } from './given';

const HOUR = 3_600_000;
const dates = (over: Partial<GivenDates> = {}): GivenDates => ({
  opensAt: null,
  dueAt: null,
  closesAt: null,
  ...over,
});

describe('dates of what is assigned', () => {
  it('open before they are due, and are due before they close', () => {
    expect(datesFault(dates({ opensAt: 5, dueAt: 5 }))).toBe('It is due before it opens.');
    expect(datesFault(dates({ opensAt: 5, closesAt: 4 }))).toBe('It closes before it opens.');
    expect(datesFault(dates({ dueAt: 5, closesAt: 4 }))).toBe('It closes before it is due.');
    expect(datesFault(dates({ opensAt: 1, dueAt: 5, closesAt: 5 }))).toBeNull();
  });
  it('are later by hand: half as much time again of ten hours is five', () => {
    const given = dates({ opensAt: 10 * HOUR, dueAt: 20 * HOUR, closesAt: 22 * HOUR });
    expect(withMoreTime(given, 50, 0)).toEqual({ opensAt: 10 * HOUR, dueAt: 25 * HOUR, closesAt: 25 * HOUR });
    // What is open already counts from now.
    expect(withMoreTime(given, 50, 18 * HOUR).dueAt).toBe(21 * HOUR);
    expect(withMoreTime(given, 0, 0)).toBe(given);
    expect(withMoreTime(given, 50, 30 * HOUR)).toBe(given);
  });
  it('are never earlier by more time, nor later by less of it', () => {
    const hours = fc.integer({ min: 0, max: 500 });
    fc.assert(
      fc.property(
        hours,
        hours,
        hours,
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 0, max: 200 }),
        (o, d, n, a, b) => {
          const given = dates({ opensAt: o * HOUR, dueAt: (o + d) * HOUR });
          const [less, more] = [Math.min(a, b), Math.max(a, b)].map(
            (p) => withMoreTime(given, p, n * HOUR).dueAt!,
          );
          expect(less).toBeGreaterThanOrEqual(given.dueAt!);
          expect(more).toBeGreaterThanOrEqual(less!);
        },
      ),
    );
  });
});

describe('who gets what is assigned', () => {
  const has = new Map([['1 7', dates({ dueAt: 3 })]]);
  const decide = (again: boolean) =>
    decideGive({
      students: [1, 2, 3],
      activities: [7, 8],
      dates: dates({ dueAt: 9 * HOUR }),
      again,
      now: 0,
      has: (s, a) => has.get(`${s} ${a}`) ?? null,
      isDone: (s, a) => s === 2 && a === 8,
      moreTime: (s) => (s === 3 ? 100 : 0),
    });
  it('is everybody but who has it or has done it, unless it is given again', () => {
    const once = decide(false);
    expect(once.changes.map((c) => `${c.enrolmentId} ${c.activityId}`)).toEqual(['1 8', '2 7', '3 7', '3 8']);
    expect([once.have, once.done, once.later, once.again]).toEqual([[1], [2], [3], []]);
    const all = decide(true);
    expect(all.changes).toHaveLength(6);
    expect(all.again).toEqual([{ enrolmentId: 2, activityId: 8 }]);
    expect(all.changes[0]).toMatchObject({ before: { dueAt: 3 }, after: { dueAt: 9 * HOUR } });
  });
});

describe('the form that assigns', () => {
  const form = {
    target: null,
    students: [1],
    activities: [7],
    opensAt: null,
    dueAt: null,
    closesAt: null,
    onlyTheirs: false,
    again: false,
  };
  it('says what is wrong in words', () => {
    expect(faultOf(giveForm, form)).toBeUndefined();
    expect(faultOf(giveForm, { ...form, target: 'a12' })).toBeUndefined();
    expect(faultOf(giveForm, { ...form, activities: [] })).toBe('Choose what is to be assigned.');
    expect(faultOf(giveForm, { ...form, opensAt: 1_800_000_000_000, dueAt: 1_700_000_000_000 })).toBe(
      'It is due before it opens.',
    );
    expect(faultOf(giveForm, { ...form, target: 'everybody' })).toBeDefined();
  });
});
