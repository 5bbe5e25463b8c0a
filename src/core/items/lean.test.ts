import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leanOf, leanText, numericAnswer, signTest } from './lean';

describe('the sign test', () => {
  // Binomial tails with p = 1/2, by hand: 2 (1 + 8) / 256 and 2 / 64.
  it.each([
    [7, 1, 18 / 256],
    [6, 0, 2 / 64],
    [0, 5, 2 / 32],
    [3, 3, 1],
    [0, 0, 1],
  ])('of %d under and %d over', (under, over, p) => expect(signTest(under, over)).toBeCloseTo(p, 14));
  it('is the same from either side, and never more than 1', () => {
    fc.assert(
      fc.property(fc.nat(60), fc.nat(60), (a, b) => {
        expect(signTest(a, b)).toBe(signTest(b, a));
        expect(signTest(a, b)).toBeLessThanOrEqual(1);
        expect(signTest(a, b)).toBeGreaterThan(0);
      }),
    );
  });
});

describe('an answer as a number', () => {
  it.each([
    ['3.4 m', { value: 3.4, unit: 'm' }],
    [' 3,4m ', { value: 3.4, unit: 'm' }],
    ['-12', { value: -12, unit: '' }],
    ['.5 kn', { value: 0.5, unit: 'kn' }],
  ])('%s', (text, expected) => expect(numericAnswer(text)).toEqual(expected));
  it.each(['about 3', 'A', '', 'm 3'])('%s is none', (text) => expect(numericAnswer(text)).toBeNull());
});

describe('a lean', () => {
  const times = (n: number, text: string) => Array.from({ length: n }, () => text);
  it('is said from six on, where nearly all lie on one side', () => {
    const lean = leanOf(['3.4 m'], [...times(8, '3 m'), '4 m', ...times(3, '3.4')])!;
    expect(lean).toMatchObject({ under: 8, over: 1, unitOnly: 3, says: 'under' });
    expect(leanText(lean)).toBe(
      '3 have the right number and another unit, or none; wrong answers lean: under in 8 of 9.',
    );
    // Seven of eight: p = 0.07.
    expect(leanOf(['3.4 m'], [...times(7, '3 m'), '4 m'])!.says).toBeNull();
  });
  it('of three to five is still few', () => {
    expect(leanText(leanOf(['3.4'], times(4, '5'))!)).toBe('The others are over in 4 of 4, still few.');
    expect(leanOf(['3.4'], [...times(4, '5'), '1'])!.says).toBeNull();
    expect(leanText(leanOf(['3.4'], times(2, '5'))!)).toBeNull();
  });
  it('is nothing of answers that are no numbers, and none without a right one', () => {
    expect(leanOf(['A'], ['B', 'C'])).toBeNull();
    expect(leanOf([], ['1', '2'])).toBeNull();
    expect(leanOf(['3'], ['A', 'B', 'C', '4'])).toBeNull();
  });
});
