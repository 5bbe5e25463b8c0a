import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mean } from 'simple-statistics';
import { itemDifficulties } from './difficulty';

describe('the difficulty of an item', () => {
  it('is the mean of first answers, whatever came later and in whatever order', () => {
    const responses = [
      { student: 1, item: 'item 10', attempt: 2, score: 1 },
      { student: 1, item: 'item 10', attempt: 1, score: 0 },
      { student: 2, item: 'item 10', attempt: 1, score: 1 },
      { student: 3, item: 'item 10', attempt: 1, score: 0.5 },
      { student: 3, item: 'item 2', attempt: 1, score: null },
    ];
    expect(itemDifficulties(responses)).toEqual([
      { item: 'item 2', answered: 0, p: null },
      { item: 'item 10', answered: 3, p: 0.5 },
    ]);
  });
  it('agrees with the mean of a general library', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1 }), (scores) => {
        const [found] = itemDifficulties(
          scores.map((score, student) => ({ student, item: 'i', attempt: 1, score })),
        );
        expect(found!.p).toBeCloseTo(mean(scores), 10);
      }),
    );
  });
  it('of nothing is nothing', () => {
    expect(itemDifficulties([])).toEqual([]);
  });
});
