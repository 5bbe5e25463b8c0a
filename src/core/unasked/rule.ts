import type { About } from '../acts/pick';
import type { ActivityKind } from '../course/kinds';
import type { MessageDoc } from '../messages/doc';
import type { Selection } from '../rules/selection';
import type { Instant } from '../units';

/** The assignments that a rule is about: all of a kind, one, or any. */
export type Which = { readonly kind: ActivityKind } | { readonly work: number } | { readonly any: true };

/** What makes a rule look at a student. */
export type When =
  /** A grade of one of these was returned. */
  | { readonly on: 'graded'; readonly which: Which }
  /** One of these is due in so many hours. */
  | { readonly on: 'due'; readonly which: Which; readonly hours: number }
  /** The condition became true, or has held so many days. */
  | { readonly on: 'holds'; readonly days: number }
  | { readonly on: 'step overdue' }
  | { readonly on: 'plan finished' }
  /** Each week on a weekday (1 Monday to 7 Sunday), so many minutes after midnight. */
  | { readonly on: 'weekly'; readonly weekday: number; readonly minute: number };

/** What a rule does: it writes to the student, or says a word to the instructor, with a draft either way. */
export interface Then {
  readonly do: 'message' | 'word';
  /** A message waits until the instructor says yes. */
  readonly approve: boolean;
  readonly withPlan: boolean;
  readonly offersTalk: boolean;
  readonly subject: string;
  readonly doc: MessageDoc;
}

export interface RuleParts {
  readonly when: When;
  /** Of whom it acts; with no test in it, of everybody. */
  readonly where: Selection;
  readonly then: Then;
  /** What it writes about: no two messages about the same lie within the cool-down. */
  readonly about: About;
}

/** A rule that is switched on, as it is judged. */
export interface LiveRule extends RuleParts {
  readonly id: number;
  /** Since when it is as it is: nothing from before makes it act. */
  readonly since: Instant;
}

/** Whether a rule is about one assignment each time: then its condition and text can speak of it. */
export const isOfWork = ({ on }: When): boolean => on === 'graded' || on === 'due';
