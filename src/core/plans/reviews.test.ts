import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planOf, planStep } from '../../../tests/support/plans';
import { DAY_MS } from '../units';
import { unchanged } from './change';
import { recallOf } from './recall';
import { outcomeRecalls, REVIEW_PART, reviewMinutes, type OutcomeAnswer } from './reviews';
import { withReviews } from './withReviews';

const AT = 100 * DAY_MS;
const answer = (outcome: number, item: string, daysAgo: number, right = true): OutcomeAnswer => ({
  outcome,
  item,
  right,
  at: AT - daysAgo * DAY_MS,
});

describe('recall of an outcome', () => {
  it('is the mean over its items, each by its half-life; the least first', () => {
    const answers = [answer(1, 'a', 2), answer(1, 'b', 1, false), answer(2, 'c', 0.1)];
    const [first, second] = outcomeRecalls(answers, AT);
    // Half-lives of two days after one right answer, and of one day after a wrong one.
    expect(first).toMatchObject({ outcome: 1, due: true, lastAt: AT - DAY_MS });
    expect(first!.recall).toBeCloseTo(0.5, 12);
    expect(second).toMatchObject({ outcome: 2, due: false });
    expect(second!.recall).toBeCloseTo(2 ** -0.05, 12);
  });
  it('is that of `recallOf` for one item, whatever else was answered', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ days: fc.integer({ min: 0, max: 60 }), right: fc.boolean() }), {
          minLength: 1,
          maxLength: 9,
        }),
        (list) => {
          const own = list.map((a) => answer(1, 'a', a.days, a.right));
          const found = outcomeRecalls([...own, answer(2, 'z', 3)], AT).find((r) => r.outcome === 1)!;
          expect(found.recall).toBeCloseTo(recallOf(own, AT)!.recall, 12);
        },
      ),
    );
  });
});

describe('reviews in a plan', () => {
  const titles = new Map([1, 2, 3, 4].map((id) => [id, `Outcome ${id}`]));
  const due = (outcome: number, isDue = true) => ({ outcome, recall: 0.4, due: isDue, lastAt: AT });
  const plan = planOf([planStep({ id: 1 })], { designId: 5 });
  const added = (p = plan, recalls = [1, 2, 3, 4].map((o) => due(o)), minutes = 60) =>
    withReviews(unchanged(p), recalls, titles, minutes, AT + 21 * DAY_MS);
  it('are three at a time, each within a third of a day', () => {
    expect(added().add.map((s) => s.title)).toEqual([
      'Review: Outcome 1',
      'Review: Outcome 2',
      'Review: Outcome 3',
    ]);
    expect(added().add[0]!.why).toBe('Last asked 3 weeks ago');
    expect([60, 24, 15, 14].map(reviewMinutes)).toEqual([10, 8, 5, 0]);
    expect(added(plan, [due(1)], 14).add).toEqual([]);
  });
  it('come once, go when they were answered, and end with the plan', () => {
    const open = planOf([planStep({ id: 1 }), planStep({ id: 2, part: REVIEW_PART, outcomeId: 1 })], {
      designId: 5,
    });
    expect(added(open, [due(1)]).add).toEqual([]);
    const answered = added(open, [due(1, false)]);
    expect([...answered.done]).toEqual([[2, AT]]);
    expect(answered.why).toBe('a review is done');
    expect(added(planOf([planStep({ id: 1, doneAt: 5 })], { designId: 5 })).add).toEqual([]);
    expect(added(planOf([planStep({ id: 1 })])).add).toEqual([]);
  });
});
