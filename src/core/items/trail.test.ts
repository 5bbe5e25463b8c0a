import { describe, expect, it } from 'vitest';
import { MINUTE_MS } from '../units';
import { sittingNumbers, wayOf } from './trail';

describe('sittings', () => {
  it('end after more than the limit without an answer', () => {
    const at = [0, 10, 40, 71, 100].map((m) => m * MINUTE_MS);
    expect(sittingNumbers(at, 30)).toEqual([1, 1, 1, 2, 2]);
    expect(sittingNumbers([], 30)).toEqual([]);
  });
});

describe('the way to the right answer', () => {
  const steps = (text: string) => [...text].map((c) => ({ answer: c, score: c === 'R' ? 1 : 0 }));
  it.each([
    ['R', 'at once'],
    ['ARB', 'later'],
    ['AAR', 'later'],
    ['ABR', 'by trying'],
    ['AB', 'not'],
    ['', 'unknown'],
  ])('of %s is %s', (text, way) => {
    expect(wayOf(steps(text))).toBe(way);
  });
});
