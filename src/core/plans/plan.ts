import type { Instant, LocalDate, Minutes } from '../units';
import type { PartRule, StepOrder, StepSet } from './design';
import type { SectionMark } from './preCheck';

/** A part of a plan that was handed out: what it is for, and what of it is expected. */
export interface PlanPart {
  readonly key: string;
  readonly title: string;
  readonly purpose: string;
  /** What the pre-check said of it; null without one. */
  readonly mark: SectionMark | null;
  readonly rule: PartRule;
  readonly order: StepOrder;
}

/** A step of a plan, with what became of it. */
export interface StepView {
  readonly id: number;
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  /** The first day that it was for and that was missed; null if none was before today. */
  readonly wasOn: LocalDate | null;
  readonly why: string;
  readonly doneAt: Instant | null;
  /** The part of the plan that it belongs to; null for none. */
  readonly part: string | null;
  readonly set: StepSet;
  /** It stays on its day, whatever else moves. */
  readonly pinned: boolean;
  /** When and where a lesson is. */
  readonly lessonAt: Instant | null;
  readonly place: string | null;
  /** The outcome that a review is of. */
  readonly outcomeId: number | null;
  /** Its name in the design it came from; null for a step made for this student. */
  readonly designStep: string | null;
  /** It is done by a further attempt, not by the one that was there. */
  readonly further: boolean;
  /** Why it counts as done without a tick; undefined if it was ticked. */
  readonly byItself?: 'handed in' | 'passed' | 'tried again' | 'opened in full';
  /** Something of it was done since the plan was made. */
  readonly begun?: boolean;
  /** It is there to choose, and nobody waits for it. */
  readonly optional?: boolean;
}

/** A study plan of one student. */
export interface PlanView {
  readonly id: number;
  readonly enrolmentId: number;
  readonly by: string;
  readonly at: Instant;
  /** The design it was handed out from; null for one made for this student. */
  readonly designId: number | null;
  readonly title: string | null;
  /** What changed last in it and why, and when; null if nothing did. */
  readonly said: string | null;
  readonly saidAt: Instant | null;
  readonly parts: readonly PlanPart[];
  readonly steps: readonly StepView[];
}

/** Whether a step is still to be done. */
export const isOpen = ({ doneAt, optional }: Pick<StepView, 'doneAt' | 'optional'>): boolean =>
  doneAt == null && optional !== true;

/** More steps than this are no plan, if somebody writes it by hand. */
export const MOST_STEPS = 20;

/** The day that was missed with an open step; null if none was. */
export const missedOn = (
  step: Pick<StepView, 'doneAt' | 'optional' | 'on' | 'wasOn'>,
  today: LocalDate,
): LocalDate | null => (!isOpen(step) ? null : (step.wasOn ?? (step.on < today ? step.on : null)));

/** Open steps of a plan that are named where there is no room for all. */
const NEXT_STEPS = 3;

/** The next open steps of a plan. */
export const nextSteps = <S extends Pick<StepView, 'doneAt' | 'optional'>>(
  steps: readonly S[],
): readonly S[] => steps.filter(isOpen).slice(0, NEXT_STEPS);
