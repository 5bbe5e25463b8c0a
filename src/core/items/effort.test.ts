import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { binomialDistribution } from 'simple-statistics';
import { blindTail, fewRuns, isAtRandom, isTooQuick, type SetAnswer } from './effort';

const norm = (p: number, choices = 4) => ({ p, least: 4, usual: 40, choices });
/** Ten items, the easiest first; which are right. */
const sitting = (right: string, seconds: number, answers = 'ABCDABCDAB'): SetAnswer[] =>
  [...right].map((r, i) => ({
    answer: answers[i % answers.length]!,
    score: r === '1' ? 1 : 0,
    seconds,
    norm: norm(0.95 - 0.08 * i),
  }));

describe('too quick', () => {
  it('is under what the class shows to be too short, where that is known', () => {
    expect(isTooQuick(3.9, norm(0.5))).toBe(true);
    expect(isTooQuick(4, norm(0.5))).toBe(false);
    expect(isTooQuick(1, { ...norm(0.5), least: null })).toBe(false);
    expect(isTooQuick(null, norm(0.5))).toBe(false);
  });
});

describe('chance', () => {
  it('of so many right is the binomial tail where all items offer as many choices', () => {
    // The package leaves the last 0.0001 out.
    const table = binomialDistribution(10, 0.25)!;
    for (let r = 0; r <= table.length; r++)
      expect(blindTail(Array<number>(10).fill(0.25), r)).toBeCloseTo(
        1 - table.slice(0, r).reduce((s, v) => s + v, 0),
        10,
      );
  });
  it('of so few runs: by hand, with 10 ups and 10 downs in six runs', () => {
    // Mean of runs 11, variance 90 / 19 (Wald and Wolfowitz 1940): six runs are z = (6.5 - 11) / 2.1764 = -2.0676.
    const six = [...'11111000001110000110'].map((c) => c === '1');
    expect(fewRuns(six)).toBeCloseTo(0.01934, 5);
    expect(fewRuns([true, true, true])).toBe(1);
  });
  it('is the same for a row and its opposite', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 2, maxLength: 40 }), (row) => {
        expect(fewRuns(row.map((v) => !v))).toBeCloseTo(fewRuns(row), 12);
      }),
    );
  });
});

describe('answers without relation to the items', () => {
  it('are one and the same answer to eight and more', () => {
    expect(isAtRandom(sitting('0010001000', 40, 'B'))).toBe(true);
    // All of these ask for B.
    expect(isAtRandom(sitting('1111111011', 40, 'B'))).toBe(false);
    expect(isAtRandom(sitting('0010001', 40, 'B'))).toBe(false);
  });
  it('are a hurried sitting with no more right than blindly, the easy ones no better than the hard ones', () => {
    expect(isAtRandom(sitting('0100010000', 8))).toBe(true);
    // As many right, but the easy ones: somebody who is quick and knows little.
    expect(isAtRandom(sitting('1110000000', 8))).toBe(false);
    // Slow and wrong is not yet learnt.
    expect(isAtRandom(sitting('0100010000', 40))).toBe(false);
    expect(isAtRandom(sitting('0101110111', 8))).toBe(false);
  });
});
