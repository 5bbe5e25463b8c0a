import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canStillSubmit, showsKey, type Disclosure, type QuizTaker } from './disclosure';

const HORIZON = 1000;
const instant = fc.integer({ min: 0, max: HORIZON });
const taker = fc.record<QuizTaker>({
  allowed: fc.option(fc.integer({ min: 1, max: 4 }), { nil: null }),
  made: fc.integer({ min: 0, max: 5 }),
  closes: fc.option(instant, { nil: null }),
  due: fc.option(instant, { nil: null }),
});

/** Whether a hand-in at an instant is taken, written from the rules of a quiz and not from the code. */
const isTaken = (t: QuizTaker, termEnd: number, at: number): boolean => {
  const attemptsLeft = t.allowed == null || t.made < t.allowed;
  const beforeClosing = t.closes == null ? at < termEnd : at < t.closes;
  const withinExtension = t.due != null && at < t.due;
  return attemptsLeft && (beforeClosing || withinExtension);
};

describe('the key of a quiz', () => {
  it('is hidden while any hand-in at this or a later instant would be taken, and shown after', () => {
    fc.assert(
      fc.property(
        fc.array(taker, { minLength: 1, maxLength: 8 }),
        instant,
        instant,
        (takers, termEnd, at) => {
          const shown = showsKey({ shown: 'closed', made: 1, held: false, takers, termEnd }, at);
          const later = Array.from({ length: HORIZON - at + 1 }, (_, i) => at + i);
          expect(shown).toBe(!takers.some((t) => later.some((l) => isTaken(t, termEnd, l))));
        },
      ),
    );
  });
  it('once shown stays shown, whatever the clock does next', () => {
    fc.assert(
      fc.property(fc.array(taker), instant, instant, instant, (takers, termEnd, a, b) => {
        const of = (at: number) => showsKey({ shown: 'closed', made: 1, held: false, takers, termEnd }, at);
        if (of(Math.min(a, b))) expect(of(Math.max(a, b))).toBe(true);
      }),
    );
  });
  it('is hidden again by an extension, an extra attempt or another who gets it', () => {
    fc.assert(
      fc.property(fc.array(taker), instant, instant, (takers, termEnd, at) => {
        const base: Disclosure = { shown: 'closed', made: 1, held: false, takers, termEnd };
        const late: QuizTaker = { allowed: null, made: 9, closes: 0, due: at + 1 };
        const extra: QuizTaker = { allowed: 2, made: 1, closes: at + 1, due: null };
        for (const more of [late, extra])
          expect(showsKey({ ...base, takers: [...takers, more] }, at)).toBe(false);
      }),
    );
  });
  const one: QuizTaker = { allowed: 1, made: 1, closes: null, due: null };
  const two: QuizTaker = { allowed: 1, made: 0, closes: null, due: 90 };
  const of = (more: Partial<Disclosure>, at: number) =>
    showsKey({ shown: 'closed', made: 1, held: false, takers: [one, two], termEnd: 200, ...more }, at);
  it('that never closes is shown at the end of the term', () =>
    expect([of({}, 199), of({}, 200)]).toEqual([false, true]));
  it('is shown earlier where the instructor says so, but only to those who answered', () =>
    expect([of({ shown: 'attempt' }, 0), of({ shown: 'now' }, 0), of({ shown: 'now', made: 0 }, 0)]).toEqual([
      true,
      true,
      false,
    ]));
  it('is never shown before a grade is returned', () =>
    expect(of({ held: true, shown: 'now' }, 999)).toBe(false));
  it('asks only of those who have the quiz', () => expect(of({ takers: [one] }, 0)).toBe(true));
  it('closes at the very instant', () =>
    expect([99, 100].map((at) => canStillSubmit({ ...two, closes: 100, due: null }, 200, at))).toEqual([
      true,
      false,
    ]));
});
