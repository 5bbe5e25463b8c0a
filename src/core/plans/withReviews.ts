import { counted } from '../format';
import type { PlanChanged } from './change';
import type { WantedStep } from './handOut';
import { isOpen } from './plan';
import type { Instant } from '../units';
import { lastAskedWords, MOST_REVIEWS, REVIEW_PART, reviewMinutes, type OutcomeRecall } from './reviews';

/**
 * A plan with the reviews that are due in it, and those done that were answered since.
 *
 * @param minutesPerDay of the student; 0 to let none come
 */
export function withReviews(
  change: PlanChanged,
  recalls: readonly OutcomeRecall[],
  titles: ReadonlyMap<number, string>,
  minutesPerDay: number,
  asOf: Instant,
): PlanChanged {
  const { plan } = change;
  if (plan.designId == null) return change;
  const open = plan.steps.filter((s) => s.part === REVIEW_PART && s.doneAt == null);
  const recallOf = new Map(recalls.map((r) => [r.outcome, r]));
  // Recall only falls while nothing is answered: what is not due any more was answered.
  const answered = open.flatMap((s) => {
    const found = s.outcomeId == null ? undefined : recallOf.get(s.outcomeId);
    return found && !found.due ? [[s.id, found.lastAt] as const] : [];
  });
  const minutes = reviewMinutes(minutesPerDay);
  const isThere = new Set(open.map((s) => s.outcomeId));
  const room = MOST_REVIEWS - (open.length - answered.length);
  const goesOn = plan.steps.some((s) => isOpen(s) && s.part !== REVIEW_PART);
  const due =
    minutes === 0 || !goesOn
      ? []
      : recalls
          .filter((r) => r.due && !isThere.has(r.outcome) && titles.has(r.outcome))
          .slice(0, Math.max(0, room));
  if (due.length === 0 && answered.length === 0) return change;
  const why =
    due.length > 0
      ? `${due.length === 1 ? `“${titles.get(due[0]!.outcome)}” is` : `${counted(due.length, 'outcome')} are`} due for review`
      : 'a review is done';
  return {
    ...change,
    why: change.why ? `${change.why} and ${why}` : why,
    done: new Map(answered),
    add: [...change.add, ...due.map((r) => reviewStep(r, titles.get(r.outcome)!, minutes, asOf))],
  };
}

const reviewStep = (recall: OutcomeRecall, title: string, minutes: number, asOf: Instant): WantedStep => ({
  part: REVIEW_PART,
  designStep: null,
  activityId: null,
  outcomeId: recall.outcome,
  title: `Review: ${title}`,
  minutes,
  why: lastAskedWords(recall, asOf),
  set: 'a',
  lessonAt: null,
  place: null,
  further: false,
});
