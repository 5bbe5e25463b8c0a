import type { MergeValues } from '@/core/messages/fields';
import { parseTemplate, render, type Rendered, type TemplateError } from '@/core/messages/template';
import type { LocalDate, Minutes } from '@/core/units';
import type { ComposeRecipient } from '@/core/views/compose';
import type { StepInput } from '@/core/views/plan';

/** A step while it is being edited. */
export interface DraftStep {
  readonly key: string;
  readonly activityId: number | null;
  readonly title: string;
  readonly minutes: Minutes;
  readonly on: LocalDate;
  readonly why: string;
}

/** Proposed steps as a draft to edit. */
export const draftSteps = (recipient: ComposeRecipient): DraftStep[] =>
  recipient.plan.map((s, i) => ({
    key: `${recipient.enrolmentId}-${i}`,
    activityId: s.activity == null ? null : Number(s.activity),
    title: s.title,
    minutes: s.minutes,
    on: s.on,
    why: s.why,
  }));

export const toStepInput = ({ activityId, title, minutes, on, why }: DraftStep): StepInput => ({
  activityId,
  title,
  minutes,
  on,
  why,
});

export interface Preview {
  readonly subject: Rendered;
  readonly body: Rendered;
}

/** What one recipient would read; the next step is that of the plan as edited. */
export function previewFor(
  subject: string,
  body: string,
  values: MergeValues,
  steps: readonly DraftStep[] | null,
): { preview: Preview; errors: TemplateError[] } {
  const s = parseTemplate(subject);
  const b = parseTemplate(body);
  const own = steps?.[0] ? { ...values, 'next step': steps[0].title } : values;
  return {
    preview: { subject: render(s.parts, own), body: render(b.parts, own) },
    errors: [...s.errors, ...b.errors],
  };
}
