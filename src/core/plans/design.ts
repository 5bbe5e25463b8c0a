import type { Instant, Minutes, Percent } from '../units';

/**
 * What a step of a plan design can be: an activity of the course; practice on an outcome, whatever of it is not done yet;
 * a talk; free text; a lesson for all who get it; a further attempt at the quiz whose score decides.
 */
export const DESIGN_STEP_KINDS = ['activity', 'practice', 'talk', 'text', 'lesson', 'attempt'] as const;
export type DesignStepKind = (typeof DESIGN_STEP_KINDS)[number];

/** One of the two sets of a part of which one is enough. */
export const STEP_SETS = ['a', 'b'] as const;
export type StepSet = (typeof STEP_SETS)[number];

export interface DesignStep {
  readonly id: string;
  readonly kind: DesignStepKind;
  readonly activityId: number | null;
  readonly outcomeId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly set: StepSet;
  /** When and where a lesson is. */
  readonly lesson: { readonly at: Instant; readonly place: string } | null;
}

/** How much of a part is expected: all of it, so many of its steps, or one of its two sets. */
export type PartRule =
  { readonly kind: 'all' } | { readonly kind: 'any'; readonly n: number } | { readonly kind: 'one set' };

export const STEP_ORDERS = ['fixed', 'free'] as const;
export type StepOrder = (typeof STEP_ORDERS)[number];

/** Steps with what is expected of them, and in which order. */
export interface StepGroup {
  readonly id: string;
  readonly rule: PartRule;
  readonly order: StepOrder;
  readonly steps: readonly DesignStep[];
}

/** What a plan does for one outcome. */
export interface Section extends StepGroup {
  readonly outcomeId: number | null;
  /** What it is for, for the student to read. */
  readonly purpose: string;
  /** Items of the pre-check that ask for it; none: all of them do. */
  readonly items: readonly string[];
}

/** Which attempt at a quiz decides. */
export const ATTEMPT_CHOICES = ['first', 'best', 'last'] as const;
export type AttemptChoice = (typeof ATTEMPT_CHOICES)[number];

/** Bands by the score of a quiz: a lane of steps each, the lowest first. */
export interface Branch {
  readonly quizId: number;
  readonly attempt: AttemptChoice;
  /** Where a band ends and the next begins, ascending, in per cent of the maximum. */
  readonly marks: readonly Percent[];
  /** One more than there are marks. */
  readonly lanes: readonly StepGroup[];
}

/** Who hands plans out: nobody has to, or the instructor says when. */
export const HAND_OUTS = ['by itself', 'released'] as const;
export type HandOut = (typeof HAND_OUTS)[number];

/** A study plan for a class: sections for all, and a branch by the score of a quiz. */
export interface PlanDesign {
  readonly title: string;
  /** What it is for, for the student to read. */
  readonly purpose: string;
  /** A quiz that nobody is graded on, whose result says what a student needs; null for none. */
  readonly preCheckId: number | null;
  readonly sections: readonly Section[];
  readonly branch: Branch | null;
  readonly handOut: HandOut;
}

/** Where a plan design stands: being written, handing out, or handing out no more. */
export const DESIGN_STATES = ['draft', 'on', 'ended'] as const;
export type DesignState = (typeof DESIGN_STATES)[number];

/** Limits of a design: more is no plan any more. */
export const DESIGN_LIMITS = { sections: 12, marks: 5, steps: 12 } as const;
