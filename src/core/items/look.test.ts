import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lookAtQuiz } from './look';
import { sittingOf, type GivenAnswer } from './sittings';

const given = (
  student: number,
  item: string,
  answer: string,
  score: number | null,
  attempt = 1,
): GivenAnswer => ({
  student,
  item,
  answer,
  score,
  attempt,
});

describe('a sitting', () => {
  it('is of first answers; who gave none left it out, and what is not scored waits', () => {
    const sitting = sittingOf([
      given(2, 'q10', 'A', 1),
      given(1, 'q2', 'B', 0, 1),
      given(1, 'q2', 'A', 1, 2),
      given(2, 'q2', ' ', 0),
      given(1, 'q3', 'x', null),
    ]);
    expect(sitting.students).toEqual([1, 2]);
    expect(sitting.items.map((i) => i.item)).toEqual(['q2', 'q10']);
    expect(sitting.items[0]).toMatchObject({
      choices: ['B', null],
      scores: [0, 0],
      omitted: 2 - 1,
      keys: [],
    });
    expect(sitting.items[1]).toMatchObject({ choices: [null, 'A'], keys: ['A'] });
    expect(sitting.unscored).toEqual(['q3']);
  });
  it('does not change with the order in which answers came', () => {
    const answer = fc.record({
      student: fc.integer({ min: 1, max: 6 }),
      item: fc.constantFrom('q1', 'q2', 'q3'),
      attempt: fc.integer({ min: 1, max: 3 }),
      answer: fc.constantFrom('A', 'B', ''),
      score: fc.constantFrom(0, 0.5, 1),
    });
    const once = fc.uniqueArray(answer, {
      selector: (r) => `${r.student} ${r.item} ${r.attempt}`,
      maxLength: 30,
    });
    fc.assert(
      fc.property(once, (responses) => {
        const one = sittingOf(responses);
        const two = sittingOf([...responses].reverse());
        expect(two.students).toEqual(one.students);
        expect(two.items.map((i) => [i.item, i.choices, i.scores, new Set(i.keys)])).toEqual(
          one.items.map((i) => [i.item, i.choices, i.scores, new Set(i.keys)]),
        );
      }),
    );
  });
});

/** Twelve students of whom the first are the best: item q1 to q4 as told, by who gives which answer. */
const quiz = (odd: (student: number) => [string, number]) =>
  sittingOf(
    Array.from({ length: 12 }, (_, s) => [
      given(s, 'odd', ...odd(s)),
      ...['a', 'b', 'c'].map((item, j) =>
        given(s, item, s < 3 * (j + 1) ? 'right' : 'wrong', s < 3 * (j + 1) ? 1 : 0),
      ),
    ]).flat(),
  );
const callOf = (odd: (student: number) => [string, number]) =>
  lookAtQuiz(quiz(odd)).items.find((i) => i.item === 'odd')!.call;

describe('what calls for a look', () => {
  it('is a wrong answer that the best prefer', () => {
    expect(callOf((s) => (s < 4 ? ['C', 0] : ['A', 1]))).toMatch(/^“C” was given by \d+ % of the best third/);
  });
  it('is an item that the weakest do better on, or that tells nobody apart', () => {
    expect(callOf((s) => (s < 8 && s > 2 ? ['', 0] : ['A', 1]))).not.toBeNull();
    expect(callOf((s) => ([0, 1, 5, 6, 9, 10, 11].includes(s) ? ['A', 1] : ['', 0]))).toMatch(
      /hardly tells|do worse/,
    );
  });
  it('is neither one that works nor one that everybody gets right', () => {
    expect(callOf((s) => (s < 6 ? ['A', 1] : ['B', 0]))).toBeNull();
    expect(callOf(() => ['A', 1])).toBeNull();
  });
  it('is nothing while few have sat the quiz', () => {
    const few = sittingOf(
      Array.from({ length: 9 }, (_, s) => given(s, 'q', s < 4 ? 'C' : 'A', s < 4 ? 0 : 1)),
    );
    expect(lookAtQuiz(few).items[0]!.call).toBeNull();
  });
  it('counts everybody once: shares of the thirds over all answers and omissions add up to one each', () => {
    const { items } = lookAtQuiz(quiz((s) => (s < 5 ? ['A', 1] : ['B', 0])));
    for (const item of items)
      for (const t of [0, 1, 2] as const)
        expect(item.answers.reduce((sum, a) => sum + a.thirds[t], 0)).toBeCloseTo(1, 9);
  });
});
