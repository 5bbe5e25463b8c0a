import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readSelection } from './selectionSchema';
import { joined, judgedBefore, verdictsOf, type Verdict } from './kleene';
import { placed, shareUp } from './place';
import { needsNumbers, select, testsIn, type SelectColumn, type Selection } from './selection';

const columnOf = (cells: readonly (string | null)[]): SelectColumn => ({
  texts: cells,
  numbers: cells.map((c) => (c != null && c !== '' && Number.isFinite(Number(c)) ? Number(c) : null)),
});
const columns: Record<string, SelectColumn> = {
  score: columnOf(['12', '8.5', null, '20', '12.0']),
  section: columnOf(['A', 'B', 'A', null, '7']),
};
const of = (selection: Selection) => select(selection, (name) => columns[name]!, 5);

describe('a test on a column', () => {
  it.each<[string, Selection, Verdict[]]>([
    ['under', { measure: 'score', is: '<', value: 12 }, [false, true, null, false, false]],
    ['at most', { measure: 'score', is: '<=', value: 12 }, [true, true, null, false, true]],
    [
      'between, both ends',
      { measure: 'score', is: 'between', value: 8.5, to: 12 },
      [true, true, null, false, true],
    ],
    [
      'between the wrong way round',
      { measure: 'score', is: 'between', value: 12, to: 8 },
      [false, false, null, false, false],
    ],
    ['a number as a number', { measure: 'score', is: '=', value: 12 }, [true, false, null, false, true]],
    ['text as it stands', { measure: 'score', is: '=', value: '12' }, [true, false, null, false, false]],
    ['a number beside text', { measure: 'section', is: '=', value: 7 }, [false, false, false, null, true]],
    ['one of', { measure: 'section', is: 'in', value: ['B', 7] }, [false, true, false, null, true]],
    ['one of none', { measure: 'section', is: 'in', value: [] }, [false, false, false, null, false]],
    ['known', { measure: 'section', is: 'known' }, [true, true, true, false, true]],
    // Four are known: a quarter of them is one, and the two at 12 stand after one.
    ['the lowest', { measure: 'score', is: 'lowest', percent: 25 }, [false, true, null, false, false]],
    [
      'the next',
      { measure: 'score', is: 'lowest', percent: 25, after: 25 },
      [true, false, null, false, true],
    ],
    ['the highest', { measure: 'score', is: 'highest', percent: 50 }, [true, false, null, true, true]],
    ['nothing asked', { all: [] }, [true, true, true, true, true]],
    ['nothing allowed', { any: [] }, [false, false, false, false, false]],
    ['the contrary', { not: { measure: 'score', is: '>', value: 12 } }, [true, true, null, false, true]],
  ])('%s', (_, selection, expected) => expect(of(selection)).toEqual(expected));

  it('tells which columns have to be numbers, however deep', () => {
    const selection: Selection = {
      all: [{ not: { measure: 'a', is: '<', value: 1 } }, { any: [{ measure: 'b', is: 'in', value: [1] }] }],
    };
    expect(testsIn(selection).map((t) => [t.measure, needsNumbers(t)])).toEqual([
      ['a', true],
      ['b', false],
    ]);
  });
});

describe('a share of a class', () => {
  it('is exact: hundredths of a per cent do not slip over a whole student', () => {
    // In binary 4.35 * 100 is 434.99999999999994, and 0.1 + 0.2 is more than 0.3.
    expect(shareUp(10_000, 4.35)).toBe(435);
    expect(shareUp(1000, 0.1, 0.2)).toBe(3);
    expect(shareUp(3, 33.4)).toBe(2);
    expect(shareUp(7, 100)).toBe(7);
    expect(shareUp(5, 1e-7)).toBe(1);
    expect(shareUp(0, 50)).toBe(0);
  });

  it('agrees with counting who is strictly lower, in whole numbers', () => {
    const values = fc.array(fc.option(fc.integer({ min: 0, max: 12 })), { maxLength: 40 });
    const tenths = fc.integer({ min: 0, max: 1000 });
    fc.assert(
      fc.property(values, tenths, tenths, fc.boolean(), (list, p, q, low) => {
        const known = list.filter((v) => v != null);
        // n < ceil(N p / 1000) holds just where 1000 n < N p.
        const within = (n: number, share: number) => 1000 * n < known.length * share;
        const expected = list.map((v) => {
          if (v == null) return null;
          const n = known.filter((o) => (low ? o < v : o > v)).length;
          return within(n, p + q) && !within(n, q);
        });
        expect(placed(list, low ? 'lowest' : 'highest', p / 10, q / 10)).toEqual(expected);
      }),
    );
  });
});

describe('joining', () => {
  const verdict = fc.constantFrom<Verdict>(true, false, null);
  it('is the least, or the greatest, where false < unknown < true', () => {
    const rank = (v: Verdict) => (v === true ? 2 : v === false ? 0 : 1);
    fc.assert(
      fc.property(fc.array(fc.tuple(verdict, verdict), { minLength: 1, maxLength: 5 }), (parts) => {
        for (const [how, best] of [
          ['all', Math.min],
          ['any', Math.max],
        ] as const) {
          const expected = [0, 1].map((i) => best(...parts.map((p) => rank(p[i]!))));
          const judge = joined(
            how,
            parts.map((p) => judgedBefore(p)),
          );
          expect(verdictsOf(judge, 2).map(rank)).toEqual(expected);
        }
      }),
    );
  });
});

describe('a condition from outside', () => {
  it.each([
    ['no condition', 5, 'this is no condition'],
    ['a list', [], 'this is no condition'],
    ['no part', {}, 'is is missing'],
    ['an unknown word', { measure: 'a', is: 'near', value: 1 }, /^is is none of </],
    ['no value', { measure: 'a', is: '<' }, 'value is missing'],
    ['text for a number', { measure: 'a', is: '<', value: '1' }, 'value is no number'],
    ['no end', { measure: 'a', is: 'between', value: 1 }, 'to is missing'],
    ['no list', { measure: 'a', is: 'in', value: 'x' }, 'value is no list'],
    ['a record in a list', { measure: 'a', is: 'in', value: [{}] }, 'value[0] is neither a number nor text'],
    ['no share', { measure: 'a', is: 'lowest' }, 'percent is missing'],
    ['too large a share', { measure: 'a', is: 'lowest', percent: 101 }, 'percent is over 100'],
    ['a part of another test', { measure: 'a', is: 'known', value: 1 }, 'this does not take value'],
    ['two in one', { all: [], any: [] }, 'this does not take any'],
    [
      'something deep',
      { all: [{ not: { any: [{ measure: 'a', is: '<' }] } }] },
      'all[0].not.any[0].value is missing',
    ],
  ])('%s', (_, value, said) => expect(() => readSelection(value)).toThrow(said));
  it('is taken as it stands', () => {
    const selection: Selection = {
      any: [
        { measure: 'a', is: 'in', value: ['x', 2] },
        { not: { measure: 'b', is: 'lowest', percent: 5, after: 10 } },
        { all: [] },
      ],
    };
    expect(readSelection(selection)).toEqual(selection);
  });
});

describe('a condition that is too much', () => {
  it.each([
    [
      'a list of 400,000 values',
      { measure: 'x', is: 'in', value: Array.from({ length: 400_000 }, (_, i) => i) },
    ],
    [
      '400,000 parts',
      { all: Array.from({ length: 999 }, () => ({ any: Array.from({ length: 400 }, () => ({})) })) },
    ],
    ['endless depth', Array.from({ length: 100_000 }).reduce((inner) => ({ not: inner }), {})],
  ])('%s is refused before it is read', (_, value) => {
    expect(() => readSelection(value)).toThrow(/more than/);
  });
  it('a list of the most values is read, once, and judged as one by one', () => {
    const value = Array.from({ length: 1000 }, (_, i) => (i % 2 ? i : String(i)));
    const selection = readSelection({ measure: 'x', is: 'in', value });
    expect(readSelection(selection)).toBe(selection);
    const texts = ['1', '2', '01', 'x', null, '1001'];
    const numbers = [1, 2, 1, null, null, 1001];
    expect(select(selection, () => ({ texts, numbers }), 6)).toEqual([true, true, true, false, null, false]);
  });
});
