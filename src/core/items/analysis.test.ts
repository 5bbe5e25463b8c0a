import fc from 'fast-check';
import { sampleCorrelation, sampleStandardDeviation } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { rows, truth } from '../../../tests/support/reference';
import { analyseItems, type AnsweredItem } from './analysis';
import { groups27 } from './groups27';

interface Truth {
  readonly n: number;
  readonly totalMean: number;
  readonly totalSdSample: number;
  readonly alpha: number;
  readonly kr20: number;
  readonly semPop: number;
  readonly difficulty: Readonly<Record<string, number>>;
  readonly itemSdSample: Readonly<Record<string, number>>;
  readonly itemTotal: Readonly<Record<string, number | null>>;
  readonly itemRest: Readonly<Record<string, number | null>>;
  readonly alphaIfDeleted: Readonly<Record<string, number>>;
  readonly D27_tiesShared: Readonly<Record<string, number>>;
}

const itemsOf = (matrix: readonly (readonly number[])[], names: readonly string[]): AnsweredItem[] =>
  names.map((item, j) => ({
    item,
    scores: Float64Array.from(matrix, (row) => row[j]!),
    omitted: 0,
  }));
const near = (value: number | null, expected: number | null | undefined) => {
  if (expected == null) expect(value).toBeNull();
  else expect(value).toBeCloseTo(expected, 12);
};

// Bock & Lieberman 1970 (Psychometrika 35) and the fictitious set of R psychometric 2.3, computed by R psych 2.2.9.
describe.each([
  ['items-lsat6', 'lsat6.csv', 5],
  ['items-testscores30', 'testscores30.csv', 10],
])('%s', (id, file, k) => {
  const expected = truth<Truth>(id);
  const names = Object.keys(expected.difficulty);
  const found = analyseItems(itemsOf(rows(file), names));
  it('has the figures of the test', () => {
    expect(found).toMatchObject({ n: expected.n, k });
    near(found.mean, expected.totalMean);
    near(found.sd, expected.totalSdSample);
    near(found.alpha, expected.alpha);
    near(found.kr20, expected.kr20);
    near(found.sem, expected.semPop);
  });
  it('has those of each item', () => {
    for (const item of found.items) {
      near(item.difficulty, expected.difficulty[item.item]);
      near(item.sd, expected.itemSdSample[item.item]);
      near(item.itemTotal, expected.itemTotal[item.item]);
      near(item.itemRest, expected.itemRest[item.item]);
      near(item.alphaIfDeleted, expected.alphaIfDeleted[item.item]);
      near(item.d27, expected.D27_tiesShared[item.item]);
    }
  });
});

it('leaves undefined what an item without variance has not', () => {
  const expected = truth<Truth>('items-discrim12');
  const found = analyseItems(itemsOf(rows('discrim12.csv'), Object.keys(expected.difficulty)));
  near(found.kr20, expected.kr20);
  for (const item of found.items) {
    near(item.difficulty, expected.difficulty[item.item]);
    near(item.itemTotal, expected.itemTotal[item.item]);
    near(item.itemRest, expected.itemRest[item.item]);
  }
});

describe('odd tests', () => {
  const test = (...matrix: number[][]) =>
    analyseItems(
      itemsOf(
        matrix,
        matrix[0]!.map((_, j) => `i${j}`),
      ),
    );
  it('of nobody, of one student, of one item, and where all are alike', () => {
    expect(analyseItems([])).toMatchObject({ n: 0, k: 0, mean: null, alpha: null, items: [] });
    expect(test([1, 0])).toMatchObject({ n: 1, mean: 1, sd: null, alpha: null, kr20: null, sem: null });
    expect(test([1], [0], [1])).toMatchObject({ k: 1, alpha: null, kr20: null, sem: null });
    const alike = test([1, 0], [1, 0], [1, 0]);
    expect(alike).toMatchObject({ sd: 0, alpha: null });
    expect(alike.items[0]).toMatchObject({ itemTotal: null, itemRest: null, d27: 0, alphaIfDeleted: null });
  });
  it('of other maxima than 1 have no KR-20', () => {
    expect(test([2, 1], [0, 1], [1, 0]).kr20).toBeNull();
    expect(test([2, 1], [0, 1], [1, 0]).alpha).not.toBeNull();
  });
  it('with fractions: a rest that is the same for all has no correlation, whatever rounding leaves', () => {
    const found = test([0.1, 0.7], [0.2, 0.7], [0.3, 0.7], [0.7, 0.7]);
    expect(found.items[0]!.itemRest).toBeNull();
    expect(found.items[1]!.itemTotal).toBeNull();
  });
});

describe('options', () => {
  // Worked by hand: totals 2, 2, 1, 0; 0.27 of 4 is 1.08, so the upper group is half of 1.08 of each of the first two.
  const choices = ['a', 'a', 'b', null];
  const items: AnsweredItem[] = [
    { item: 'x', scores: [1, 1, 0, 0], omitted: 1, choices, keys: ['a'] },
    { item: 'y', scores: [1, 1, 1, 0], omitted: 0 },
  ];
  it('count who chose each, and how many of the best and the weakest', () => {
    const [x, y] = analyseItems(items).items;
    expect(y!.options).toEqual([]);
    expect(x).toMatchObject({ omitted: 1 });
    expect(x!.options.map((o) => [o.option, o.key, o.count, o.meanTotal])).toEqual([
      ['a', true, 2, 2],
      ['b', false, 1, 1],
    ]);
    expect(x!.options[0]!.upper27).toBeCloseTo(1.08, 12);
    expect(x!.options[1]!.lower27).toBeCloseTo(0.08, 12);
    expect(x!.options[0]!.rTotal).toBeCloseTo(sampleCorrelation([1, 1, 0, 0], [2, 2, 1, 0]), 12);
    expect(x!.options[1]!.rRest).toBeCloseTo(sampleCorrelation([0, 0, 1, 0], [1, 1, 1, 0]), 12);
  });
  it('name a key that nobody chose', () => {
    const found = analyseItems([{ ...items[0]!, scores: [0, 0, 0, 0], keys: ['c'] }, items[1]!]).items[0]!;
    expect(found.options.find((o) => o.option === 'c')).toEqual({
      option: 'c',
      key: true,
      count: 0,
      upper27: 0,
      lower27: 0,
      meanTotal: null,
      rTotal: null,
      rRest: null,
    });
  });
});

const matrix = fc.tuple(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 2, max: 6 })).chain(([n, k]) =>
  fc.array(fc.array(fc.constantFrom<number>(0, 0.25, 0.5, 1, 3), { minLength: k, maxLength: k }), {
    minLength: n,
    maxLength: n,
  }),
);

describe('any test', () => {
  it('agrees with a general library on deviation and correlation', () => {
    fc.assert(
      fc.property(matrix, (m) => {
        const items = itemsOf(
          m,
          m[0]!.map((_, j) => `i${j}`),
        );
        const found = analyseItems(items);
        const totals = m.map((row) => row.reduce((a, b) => a + b, 0));
        expect(found.sd).toBeCloseTo(sampleStandardDeviation(totals), 10);
        for (const [j, item] of found.items.entries()) {
          if (item.itemTotal == null) continue;
          expect(item.itemTotal).toBeCloseTo(
            sampleCorrelation(
              m.map((r) => r[j]!),
              totals,
            ),
            10,
          );
        }
      }),
    );
  });
  it('does not change with the order of students', () => {
    fc.assert(
      fc.property(matrix, (m) => {
        const names = m[0]!.map((_, j) => `i${j}`);
        const one = analyseItems(itemsOf(m, names));
        const two = analyseItems(itemsOf([...m].reverse(), names));
        two.items.forEach((item, j) => near(item.d27, one.items[j]!.d27));
        near(two.alpha, one.alpha);
      }),
    );
  });
  it('has groups of exactly 0.27 n, nobody more than once in either', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 60 }), (totals) => {
        const { lower, upper, size } = groups27(Float64Array.from(totals));
        for (const group of [lower, upper]) {
          expect(group.reduce((a, b) => a + b, 0)).toBeCloseTo(size, 9);
          expect(Math.max(...group)).toBeLessThanOrEqual(1);
        }
      }),
    );
  });
});
