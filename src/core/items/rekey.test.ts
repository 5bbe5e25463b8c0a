import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attemptShares, movesOf, regraded, type CameAnswer, type GradeBase } from './rekey';
import { sameKeys, scoreOf, type ItemKey } from './treatment';

const key = (keys: string[] | null, came = keys, treatment: ItemKey['treatment'] = 'scored'): ItemKey => ({
  keys,
  keysCame: came,
  treatment,
});
const answer = (
  student: number,
  item: string,
  given: string,
  came: number | null,
  attempt = 1,
): CameAnswer => ({
  student,
  item,
  attempt,
  answer: given,
  came,
});

describe('what an answer counts', () => {
  it('is what it came with until the key is changed', () => {
    expect(scoreOf(undefined, 'B', 0.5)).toBe(0.5);
    expect(scoreOf(key(['A']), 'B', 0.5)).toBe(0.5);
    expect(scoreOf(key(null), 'B', 1)).toBe(1);
  });
  it('follows another key: right by the new, wrong by the old, a part of a point elsewhere stays', () => {
    const changed = key(['C'], ['A']);
    expect([scoreOf(changed, ' C ', 0), scoreOf(changed, 'A', 1), scoreOf(changed, 'B', 0.5)]).toEqual([
      1, 0, 0.5,
    ]);
  });
  it('is both, where a second answer is accepted', () => {
    const both = key(['A', 'C'], ['A']);
    expect([scoreOf(both, 'C', 0), scoreOf(both, 'A', 1), scoreOf(both, 'A', 0.8)]).toEqual([1, 1, 0.8]);
  });
  it('is nothing where the item is dropped, and all where it is given', () => {
    expect(scoreOf(key(['A'], ['A'], 'dropped'), 'A', 1)).toBeNull();
    expect(scoreOf(key(['A'], ['A'], 'given'), 'B', 0)).toBe(1);
  });
  it('is scored by the key where it came without a score', () => {
    expect([
      scoreOf(key(['A']), 'A', null),
      scoreOf(key(['A']), 'B', null),
      scoreOf(key(['A']), ' ', null),
    ]).toEqual([1, 0, null]);
  });
});

describe('the share of a quiz', () => {
  const answers = [answer(1, 'x', 'A', 1), answer(1, 'y', 'B', 0), answer(2, 'x', 'B', 0)];
  it('is the mean over the items that anybody was asked, what is left out as 0', () => {
    const shares = attemptShares(answers, new Map())!;
    expect(shares.get(1)).toEqual([{ attempt: 1, share: 0.5 }]);
    expect(shares.get(2)).toEqual([{ attempt: 1, share: 0 }]);
  });
  it('gives a given point to those who left it out, too, and is nothing where all are dropped', () => {
    const shares = attemptShares(answers, new Map([['y', key(['A'], ['A'], 'given')]]))!;
    expect([...shares.values()].map(([s]) => s!.share)).toEqual([1, 0.5]);
    const gone = key(null, null, 'dropped');
    expect(
      attemptShares(
        answers,
        new Map([
          ['x', gone],
          ['y', gone],
        ]),
      ),
    ).toBeNull();
  });
});

const share = fc.integer({ min: 0, max: 20 }).map((n) => n / 20);
describe('a grade after another key', () => {
  it('by hand: 6 of 10 with a late penalty of 1 rises to 7 where one more of ten is right', () => {
    expect(regraded(6, 10, 0.7, 0.8, null)).toEqual({ points: 7, base: { points: 6, share: 0.7 } });
  });
  it('is the very one that was there once the key is changed back, through whatever was between', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2000 }).map((n) => n / 100),
        share,
        fc.array(share, { minLength: 1, maxLength: 5 }),
        (points, first, through) => {
          let at: { points: number; base: GradeBase | null; share: number } = {
            points,
            base: null,
            share: first,
          };
          for (const next of [...through, first]) {
            at = { ...regraded(at.points, 20, at.share, next, at.base), share: next };
            expect(at.points).toBeGreaterThanOrEqual(0);
            expect(at.points).toBeLessThanOrEqual(20);
          }
          expect(at.points).toBe(points);
        },
      ),
    );
  });
  it('that was given anew since is counted from there', () => {
    expect(regraded(3, 10, 0.7, 0.8, { points: 6, share: 0.5 })).toMatchObject({ points: 4 });
  });
});

describe('whose grade moves', () => {
  const LETTERS = ['A', 'B', 'C'] as const;
  const sat = fc
    .array(fc.array(fc.constantFrom(...LETTERS), { minLength: 3, maxLength: 3 }), {
      minLength: 1,
      maxLength: 6,
    })
    .map((rows) =>
      rows.flatMap((row, s) => row.map((given, i) => answer(s + 1, `i${i}`, given, given === 'A' ? 1 : 0))),
    );
  const grades = (answers: readonly CameAnswer[]) =>
    [...attemptShares(answers, new Map())!].map(([student, [of]]) => ({
      student,
      points: Math.round(of!.share * 3),
      base: null,
    }));
  it('is who answered by the old key or by the new', () => {
    fc.assert(
      fc.property(sat, fc.constantFrom(...LETTERS), (answers, to) => {
        const moved = movesOf(answers, new Map(), new Map([['i0', key([to], ['A'])]]), grades(answers), 3);
        const who = answers.filter(
          (a) => a.item === 'i0' && to !== 'A' && (a.answer === 'A' || a.answer === to),
        );
        expect(moved.map((m) => m.student)).toEqual(who.map((a) => a.student));
        for (const m of moved) expect(Math.abs(m.to - m.from)).toBeCloseTo(1, 6);
      }),
    );
  });
  it('does not hang on the order of the answers', () => {
    fc.assert(
      fc.property(sat, (answers) => {
        const after = new Map([['i1', key(['B'], ['A'])]]);
        const sorted = (list: readonly CameAnswer[]) =>
          movesOf(list, new Map(), after, grades(answers), 3).sort((a, b) => a.student - b.student);
        expect(sorted([...answers].reverse())).toEqual(sorted(answers));
      }),
    );
  });
  it('is nobody where no item would be left', () => {
    const answers = [answer(1, 'x', 'A', 1)];
    const gone = new Map([['x', key(['A'], ['A'], 'dropped')]]);
    expect(movesOf(answers, new Map(), gone, [{ student: 1, points: 1, base: null }], 1)).toEqual([]);
  });
  it('goes by the attempt that the grade rests on', () => {
    const answers = [
      answer(1, 'x', 'B', 0),
      answer(1, 'y', 'A', 1),
      answer(1, 'x', 'A', 1, 2),
      answer(1, 'y', 'A', 1, 2),
    ];
    const after = new Map([['x', key(['B'], ['A'])]]);
    // The grade is that of the second attempt, which answered by the old key.
    expect(movesOf(answers, new Map(), after, [{ student: 1, points: 2, base: null }], 2)).toMatchObject([
      { to: 1 },
    ]);
    expect(movesOf(answers, new Map(), after, [{ student: 1, points: 1, base: null }], 2)).toMatchObject([
      { to: 2 },
    ]);
  });
});

it('keys are the same in whatever order', () => {
  expect([
    sameKeys(['A', 'B'], ['B', 'A']),
    sameKeys(['A'], ['B']),
    sameKeys(null, []),
    sameKeys(null, null),
  ]).toEqual([true, false, false, true]);
});
