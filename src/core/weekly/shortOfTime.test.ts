import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FLAG_KINDS } from '../flags/indicators';
import { cutTo, TAKES, type WaitingCase, type WaitingFollowUp } from './shortOfTime';

const waiting = (id: number, over: Partial<WaitingCase> = {}): WaitingCase => ({
  id,
  flags: [{ kind: 'behind', level: 'watch' }],
  isNew: false,
  meets: '2026-11-30',
  ...over,
});
const act = (kind: (typeof FLAG_KINDS)[number]) => ({ kind, level: 'act' as const });

describe('short of time', () => {
  it('begins with the most worth a minute: an answer, then who has most flags at “act”', () => {
    const two = waiting(1, { flags: [act('behind'), act('not seen')] });
    const one = waiting(2, { flags: [act('slipping')] });
    const watch = waiting(3, { meets: '2026-12-02' });
    const cut = cutTo(5, [two, one, watch], [{ actId: 9, id: 4, answered: false }]);
    expect(cut.now.map((t) => [t.kind, t.ids, t.minutes])).toEqual([
      ['case', [1], 2],
      ['follow-up', [4], 1],
      ['case', [2], 2],
    ]);
    expect(cut.minutes).toBe(5);
    expect(cut.later).toEqual([{ until: '2026-12-02', ids: [3] }]);
  });

  it('takes alike cases together, and of many as many as fit', () => {
    const alike = Array.from({ length: 10 }, (_, i) => waiting(i));
    expect(cutTo(10, alike, []).now).toEqual([
      { kind: 'batch', about: 'behind', ids: alike.map((c) => c.id), minutes: 6 },
    ]);
    const cut = cutTo(3, alike, []);
    expect(cut.now).toMatchObject([{ ids: [0, 1, 2, 3], minutes: 3 }]);
    expect(cut.later).toEqual([{ until: '2026-11-30', ids: [4, 5, 6, 7, 8, 9] }]);
  });

  it('puts those whose section meets no more last, and has nothing to say of nothing', () => {
    const cut = cutTo(0, [waiting(1, { meets: null }), waiting(2)], []);
    expect(cut.later.map((l) => l.until)).toEqual(['2026-11-30', null]);
    expect(cutTo(10, [], [])).toEqual({ now: [], minutes: 0, later: [], followUpsLater: 0 });
  });

  it('never takes longer than there is, and everybody is once in it: now or later', () => {
    const flag = fc.record({
      kind: fc.constantFrom(...FLAG_KINDS),
      level: fc.constantFrom('act' as const, 'watch' as const),
    });
    const cases = fc
      .array(fc.record({ flags: fc.array(flag, { minLength: 1, maxLength: 4 }), isNew: fc.boolean() }), {
        maxLength: 30,
      })
      .map((list) => list.map((c, id) => waiting(id, c)));
    const follow = fc
      .array(fc.boolean(), { maxLength: 8 })
      .map((list) => list.map((answered, i): WaitingFollowUp => ({ actId: i, id: 100 + i, answered })));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), cases, follow, (minutes, list, follows) => {
        const cut = cutTo(minutes, list, follows);
        expect(cut.minutes).toBeLessThanOrEqual(minutes);
        expect(cut.now.reduce((sum, t) => sum + t.minutes, 0)).toBe(cut.minutes);
        const now = cut.now.filter((t) => t.kind !== 'follow-up').flatMap((t) => t.ids);
        expect([...now, ...cut.later.flatMap((l) => l.ids)].sort((a, b) => a - b)).toEqual(
          list.map((c) => c.id),
        );
        expect(cut.now.filter((t) => t.kind === 'follow-up').length + cut.followUpsLater).toBe(
          follows.length,
        );
        // What is left would not have taken a case more.
        if (cut.later.length > 0 && list.every((c) => c.flags.length > 1))
          expect(minutes - cut.minutes).toBeLessThan(TAKES.case);
      }),
    );
  });
});
