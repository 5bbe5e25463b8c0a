import type { DesignStep, StepGroup } from '@/core/plans/design';
import type { PlanPart, PlanView, StepView } from '@/core/plans/plan';

/** A step of a plan with what a test says of it. */
export const planStep = (over: Partial<StepView> = {}): StepView => ({
  id: 1,
  activityId: null,
  title: `Step ${over.id ?? 1}`,
  minutes: 20,
  on: '2026-11-25',
  wasOn: null,
  why: '',
  doneAt: null,
  part: null,
  designStep: null,
  set: 'a',
  pinned: false,
  lessonAt: null,
  place: null,
  outcomeId: null,
  further: false,
  ...over,
});

/** A plan with these steps. */
export const planOf = (steps: readonly StepView[], over: Partial<PlanView> = {}): PlanView => ({
  id: 1,
  enrolmentId: 1,
  by: 'Ines Moura',
  at: 0,
  designId: null,
  title: null,
  said: null,
  saidAt: null,
  parts: [],
  steps,
  ...over,
});

/** A part of a plan with what a test says of it. */
export const planPart = (over: Partial<PlanPart> = {}): PlanPart => ({
  key: 'lane 1',
  title: '',
  purpose: '',
  mark: null,
  rule: { kind: 'all' },
  order: 'free',
  ...over,
});

/** A step of a plan design with what a test says of it. */
export const designStep = (id: string, over: Partial<DesignStep> = {}): DesignStep => ({
  id,
  kind: 'text',
  activityId: null,
  outcomeId: null,
  title: id,
  minutes: 20,
  set: 'a',
  lesson: null,
  ...over,
});

/** Steps of a design in a fixed order, all of them expected. */
export const lane = (id: string, ...steps: DesignStep[]): StepGroup => ({
  id,
  rule: { kind: 'all' },
  order: 'fixed',
  steps,
});
