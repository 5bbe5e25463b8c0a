import type { FlagKind } from '../flags/indicators';
import type { FlagLevel } from '../flags/level';
import { groupBy } from '../groupBy';
import type { LocalDate, Minutes } from '../units';

/** Somebody who waits in Rounds. */
export interface WaitingCase {
  readonly id: number;
  readonly flags: readonly { readonly kind: FlagKind; readonly level: FlagLevel }[];
  readonly isNew: boolean;
  /** The day on which they can be seen in class next; null if the section does not meet any more. */
  readonly meets: LocalDate | null;
}

/** A follow-up that is due. */
export interface WaitingFollowUp {
  readonly actId: number;
  readonly id: number;
  readonly answered: boolean;
}

/** Something to do in the minutes there are: one case, a follow-up, or alike cases whose drafts are looked over together. */
export type Task =
  | { readonly kind: 'follow-up'; readonly actId: number; readonly ids: readonly number[] }
  | { readonly kind: 'case'; readonly ids: readonly number[] }
  | { readonly kind: 'batch'; readonly about: FlagKind; readonly ids: readonly number[] };

export type Timed = Task & { readonly minutes: Minutes };

/** What fits into the minutes there are, the most worth first, and until when the others can wait. */
export interface Cut {
  readonly now: readonly Timed[];
  readonly minutes: Minutes;
  /** Cases that wait, by the day until which they can; the first day first, those without a meeting last. */
  readonly later: readonly { readonly until: LocalDate | null; readonly ids: readonly number[] }[];
  /** Follow-ups that wait until tomorrow. */
  readonly followUpsLater: number;
}

/** Minutes that each kind takes, as watched (common practice): to read and decide, to read an answer, to look a draft over. */
export const TAKES = { case: 2, 'follow-up': 1, answer: 2, text: 1, draft: 0.5 } as const;

/** From so many alike cases on, they are handled together. */
export const LEAST_ALIKE = 3;

const worthOf = ({ flags, isNew }: WaitingCase): number =>
  flags.reduce((sum, f) => sum + (f.level === 'act' ? 3 : 1), 0) + (isNew ? 1 : 0);

interface Offer {
  readonly task: Task;
  readonly minutes: Minutes;
  readonly worth: number;
}

const batchMinutes = (n: number): Minutes => TAKES.text + n * TAKES.draft;

/**
 * Cuts what waits to the minutes there are: the most worth a minute first. A case is worth three for each flag at "act",
 * one for each at "watch", and one more if it is new; an answer four, another follow-up two. Cases with one flag, of the
 * same kind, are alike: from three on they are a batch, of which as many are taken as fit. What does not fit can wait until
 * the section meets next.
 *
 * @param cases in order of priority, which also decides between equals
 */
export function cutTo(
  minutes: Minutes,
  cases: readonly WaitingCase[],
  followUps: readonly WaitingFollowUp[],
): Cut {
  const single = (c: WaitingCase) => (c.flags.length === 1 ? c.flags[0]!.kind : null);
  const alike = new Map(
    [...groupBy(cases, single)].filter(([kind, list]) => kind != null && list.length >= LEAST_ALIKE),
  );
  const offers: Offer[] = [
    ...followUps.map((f): Offer => ({
      task: { kind: 'follow-up', actId: f.actId, ids: [f.id] },
      minutes: f.answered ? TAKES.answer : TAKES['follow-up'],
      worth: f.answered ? 4 : 2,
    })),
    ...[...alike].map(([kind, list]): Offer => ({
      task: { kind: 'batch', about: kind!, ids: list.map((c) => c.id) },
      minutes: batchMinutes(list.length),
      worth: list.reduce((sum, c) => sum + worthOf(c), 0),
    })),
    ...cases
      .filter((c) => !alike.has(single(c)))
      .map((c): Offer => ({ task: { kind: 'case', ids: [c.id] }, minutes: TAKES.case, worth: worthOf(c) })),
  ];
  // The sort is stable: equals stay in the order of priority.
  offers.sort((a, b) => b.worth / b.minutes - a.worth / a.minutes);
  const now: Timed[] = [];
  let left = minutes;
  for (const { task, minutes: takes } of offers) {
    const fit =
      task.kind === 'batch' && takes > left
        ? { ...task, ids: task.ids.slice(0, Math.max(0, Math.floor((left - TAKES.text) / TAKES.draft))) }
        : task;
    const needs = fit.kind === 'batch' ? batchMinutes(fit.ids.length) : takes;
    if (fit.ids.length === 0 || (fit.kind === 'batch' && fit.ids.length < 2) || needs > left) continue;
    now.push({ ...fit, minutes: needs });
    left -= needs;
  }
  const taken = new Set(now.filter((t) => t.kind !== 'follow-up').flatMap((t) => t.ids));
  const acts = new Set(now.flatMap((t) => (t.kind === 'follow-up' ? [t.actId] : [])));
  const waiting = cases.filter((c) => !taken.has(c.id));
  return {
    now,
    minutes: minutes - left,
    later: [...groupBy(waiting, (c) => c.meets)]
      .map(([until, list]) => ({ until, ids: list.map((c) => c.id) }))
      .sort((a, b) => (a.until ?? '9').localeCompare(b.until ?? '9')),
    followUpsLater: followUps.filter((f) => !acts.has(f.actId)).length,
  };
}
