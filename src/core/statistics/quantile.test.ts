import { describe, expect, it } from 'vitest';
import { rows, truth } from '../../../tests/support/reference';
import { median, middleHalf, percentileRank, quantile } from './quantile';

interface QuantileTruth {
  quantiles: { type7: Record<string, number> };
  median: number;
}

describe.each(['small9', 'small10', 'one'])(
  '%s: type 7 of Hyndman & Fan 1996, as R 4.2.2 computes it',
  (name) => {
    const expected = truth<QuantileTruth>(`quantiles-${name}`);
    const values = rows(`${name}.csv`).map((r) => r[0]!);
    it('has every quantile', () => {
      for (const [p, value] of Object.entries(expected.quantiles.type7)) {
        // The record prints its probabilities with six digits; 1/3 is the only one that this rounds.
        const probability = p === '0.333333' ? 1 / 3 : Number(p);
        expect(quantile(values, probability)).toBeCloseTo(value, 9);
      }
    });
    it('has the median', () => expect(median(values)).toBe(expected.median));
  },
);

describe('edges', () => {
  it('says null for nothing', () => {
    expect(median([])).toBeNull();
    expect(middleHalf([])).toBeNull();
    expect(percentileRank([], 3)).toBeNull();
  });
  it('ranks ties in the middle', () => {
    expect(percentileRank([1, 2, 2, 3], 2)).toBe(0.5);
    expect(percentileRank([1, 2, 3, 4], 1)).toBe(0.125);
  });
  it('does not disturb its input', () => {
    const values = [3, 1, 2];
    median(values);
    expect(values).toEqual([3, 1, 2]);
  });
  it('has no sign of zero', () => {
    for (const values of [[-0], [0, -0], [-0, 0], [-1, -0, 1]]) expect(quantile(values, 0.5)).toBe(0);
  });
});
