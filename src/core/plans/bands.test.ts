import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pointsOfAttempts } from '../gradebook/attemptPolicy';
import { decidingScore } from './attemptScore';
import { bandNote, bandOf, bandWords, marksFault } from './bands';

const marks = fc
  .uniqueArray(fc.integer({ min: 1, max: 1000 }), { maxLength: 5 })
  .map((list) => list.map((m) => m / 10).sort((a, b) => a - b));

describe('bands of a score', () => {
  it('cover 0 to the top, with no score in two: each lies between its mark and the next', () => {
    fc.assert(
      fc.property(marks, fc.double({ min: 0, max: 150, noNaN: true }), (cuts, score) => {
        expect(marksFault(cuts)).toBeNull();
        const inside = Array.from({ length: cuts.length + 1 }, (_, band) => band).filter(
          (band) => score >= (cuts[band - 1] ?? 0) && score < (cuts[band] ?? Infinity),
        );
        expect(inside).toEqual([bandOf(score, cuts)]);
      }),
    );
  });
  it('by hand: a score on a mark goes up, and over 100 % is the top', () => {
    expect([0, 49.9, 50, 79.99, 80, 104].map((s) => bandOf(s, [50, 80]))).toEqual([0, 0, 1, 1, 2, 2]);
  });
  it('refuse marks that leave a band without width, that fall, or that lie outside', () => {
    expect(marksFault([50, 50])).toBe('Two marks at 50 % leave a band of no width between them.');
    expect(marksFault([80, 50])).toBe('The marks have to rise: 50 % follows 80 %.');
    expect(marksFault([0])).toMatch(/does not/);
    expect(marksFault([100.5])).toMatch(/100 % at most/);
    expect(marksFault([Number.NaN])).toMatch(/does not/);
    expect(marksFault([])).toBeNull();
  });
  it('are named in per cent and in points', () => {
    expect([0, 1, 2].map((b) => bandWords(b, [50, 80], 20))).toEqual([
      'under 50 % (under 10 points)',
      '50 to under 80 % (10 to under 16 points)',
      '80 % and over (16 points and over)',
    ]);
    expect(bandWords(0, [], 20)).toBe('any score');
  });
  it('say that nobody is in them, or too few to judge', () => {
    expect(bandNote(0, 30)).toBe('None of 30 results lies here.');
    expect(bandNote(4, 30)).toBe('4 students: too few to judge whether these steps help.');
    expect(bandNote(5, 30)).toBeNull();
    expect(bandNote(0, 0)).toBeNull();
  });
});

describe('the score that decides', () => {
  const result = { excused: false, returned: true, points: 9, attempts: [6, null, 9, 8] };
  it('is of the first, the best or the last attempt whose points are known', () => {
    const percent = (choice: 'first' | 'best' | 'last') => decidingScore(result, choice, 12);
    expect([percent('first'), percent('best'), percent('last')]).toEqual([
      { percent: 50 },
      { percent: 75 },
      { percent: 800 / 12 },
    ]);
  });
  it('is that of the gradebook where there is one attempt: it may have been regraded', () => {
    expect(decidingScore({ ...result, attempts: [6] }, 'first', 12)).toEqual({ percent: 75 });
    expect(decidingScore({ ...result, attempts: [] }, 'first', 12)).toEqual({ percent: 75 });
  });
  it('is that of the gradebook where somebody has changed it since: it is none of the attempts', () => {
    expect(decidingScore({ ...result, points: 3 }, 'best', 12)).toEqual({ percent: 25 });
    // The average is of the attempts, where that counts for the grade.
    const average = (6 + 9 + 8) / 3;
    expect(decidingScore({ ...result, points: average }, 'first', 12)).toEqual({ percent: 50 });
  });
  it('is none if excused, and waits if missing, not graded or not returned', () => {
    expect(decidingScore({ ...result, excused: true }, 'best', 12)).toBe('excused');
    expect(decidingScore({ ...result, returned: false }, 'best', 12)).toBe('waits');
    expect(decidingScore({ ...result, points: null }, 'best', 12)).toBe('waits');
    expect(decidingScore(result, 'best', 0)).toBe('waits');
  });
});

describe('points of several attempts', () => {
  it('are those of a policy, within what the attempts have', () => {
    expect(
      (['first', 'best', 'last', 'average'] as const).map((p) => pointsOfAttempts([4, 9, null, 8], p)),
    ).toEqual([4, 9, 8, 7]);
    expect(pointsOfAttempts([null], 'best')).toBeNull();
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 1 }), (points) => {
        const best = pointsOfAttempts(points, 'best')!;
        for (const policy of ['first', 'last', 'average'] as const)
          expect(pointsOfAttempts(points, policy)!).toBeLessThanOrEqual(best);
      }),
    );
  });
});
