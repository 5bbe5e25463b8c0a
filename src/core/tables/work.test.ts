import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { WorkRow } from '../views/work';
import { binsRange, pointStep, rangeBins, rangeOf, rangeText, workBins } from './work';

const graded = (points: number) => ({ status: 'graded', points }) as WorkRow;
const view = (maximum: number, ...points: number[]) => ({ maximum, rows: points.map(graded) });

describe('the points of an assignment', () => {
  it('are drawn in bars that fit their scale: half points up to five, tens only up to a hundred', () => {
    const widths = [5, 10, 20, 50, 100].map((maximum) => {
      const [bin] = workBins(view(maximum));
      return bin!.to - bin!.from;
    });
    expect(widths).toEqual([0.5, 1, 2, 5, 10]);
  });
  it('go in half points, or in as fine steps as are there', () => {
    expect([pointStep(view(10, 7, 8.5)), pointStep(view(10, 7.25)), pointStep(view(10, 7.1))]).toEqual([
      0.5, 0.25, 0.1,
    ]);
    expect(pointStep(view(10, 7.33))).toBe(0.01);
  });
  it('swept over give a range with both ends in, which holds exactly the scores of the bars', () => {
    const points = fc.array(
      fc.integer({ min: 0, max: 20 }).map((n) => n / 2),
      { minLength: 1 },
    );
    fc.assert(
      fc.property(points, fc.nat(9), fc.nat(9), (list, a, b) => {
        const shown = view(10, ...list);
        const bins = workBins(shown);
        const chosen = [Math.min(a, b), Math.max(a, b)] as const;
        const range = binsRange(bins, chosen, pointStep(shown));
        const inBins = bins.slice(chosen[0], chosen[1] + 1).reduce((sum, bin) => sum + bin.count, 0);
        expect(list.filter((p) => p >= range.from && p <= range.to)).toHaveLength(inBins);
        expect(rangeBins(bins, range)).toEqual(chosen);
        expect(rangeOf({ range: rangeText(range) })).toEqual(range);
      }),
    );
  });
  it('typed in an address are read, and what is no range is none', () => {
    expect(rangeOf({ range: '6-8.5' })).toEqual({ from: 6, to: 8.5 });
    for (const range of ['8-6', '1e3-5', '-5', '6', '6-8-9', '', undefined])
      expect(rangeOf({ range })).toBeNull();
  });
});
