import { counted } from '../format';
import { DAY_MS, type Instant, type Minutes } from '../units';
import { recallOf, REVIEW_UNDER, type Recalled } from './recall';

/** The part of a plan in which reviews stand. */
export const REVIEW_PART = 'review';
/** Of a day so much is review at most. */
const REVIEW_SHARE = 1 / 3;
/** A review of an outcome takes so long, if the day has room for it (common practice). */
const REVIEW_MINUTES: Minutes = 10;
/** Reviews in a plan at a time: what else is due comes when one of these is done. */
export const MOST_REVIEWS = 3;

/** How well an outcome is still known: the mean recall of its items. */
export interface OutcomeRecall {
  readonly outcome: number;
  readonly recall: number;
  readonly due: boolean;
  /** When the last answer to one of its items was given. */
  readonly lastAt: Instant;
}

/** An answer to an item that asks for an outcome. */
export interface OutcomeAnswer extends Recalled {
  readonly item: string;
  readonly outcome: number;
}

/**
 * The predicted recall of each outcome of a student, the mean over its items that were answered; due under 0.7. In the
 * order of recall, the least first.
 */
export function outcomeRecalls(answers: readonly OutcomeAnswer[], asOf: Instant): OutcomeRecall[] {
  const byOutcome = new Map<number, Map<string, OutcomeAnswer[]>>();
  for (const a of answers) {
    const items = byOutcome.get(a.outcome) ?? new Map<string, OutcomeAnswer[]>();
    byOutcome.set(a.outcome, items.set(a.item, [...(items.get(a.item) ?? []), a]));
  }
  return [...byOutcome]
    .flatMap(([outcome, items]): OutcomeRecall[] => {
      const recalls = [...items.values()].flatMap((list) => recallOf(list, asOf)?.recall ?? []);
      if (recalls.length === 0) return [];
      const recall = recalls.reduce((sum, r) => sum + r, 0) / recalls.length;
      const lastAt = Math.max(...[...items.values()].flat().map((a) => (a.at <= asOf ? a.at : -Infinity)));
      return [{ outcome, recall, due: recall < REVIEW_UNDER, lastAt }];
    })
    .sort((a, b) => a.recall - b.recall || a.outcome - b.outcome);
}

/** How long ago something was last asked, in words: what a model predicts of a student is not theirs to read as a fact. */
export function lastAskedWords({ lastAt }: Pick<OutcomeRecall, 'lastAt'>, asOf: Instant): string {
  const days = Math.max(0, Math.floor((asOf - lastAt) / DAY_MS));
  if (days < 14) return `Last asked ${days === 0 ? 'today' : `${counted(days, 'day')} ago`}`;
  return `Last asked ${Math.floor(days / 7)} weeks ago`;
}

/** Minutes of a review for somebody who has so many a day; 0 where there is no room for one. */
export function reviewMinutes(minutesPerDay: Minutes): Minutes {
  const most = Math.floor(minutesPerDay * REVIEW_SHARE);
  return most < 5 ? 0 : Math.min(REVIEW_MINUTES, most);
}
