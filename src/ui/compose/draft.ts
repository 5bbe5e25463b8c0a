import type { About } from '@/core/acts/pick';
import { counted } from '@/core/format';
import { groupBy } from '@/core/groupBy';
import type { MessageDoc } from '@/core/messages/doc';
import type { MergeField, MergeValues } from '@/core/messages/fields';
import { fillDoc } from '@/core/messages/fillDoc';
import { parseTemplate, render } from '@/core/messages/template';
import type { Selection } from '@/core/rules/selection';
import type { LocalDate, Minutes } from '@/core/units';
import type { ComposeRecipient } from '@/core/views/compose';
import type { StepForm, StepsForm, TextForm } from '@/core/forms/message';

/** A step while it is being edited. */
export type DraftStep = StepsForm['steps'][number];

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

export const toStepInput = ({ activityId, title, minutes, on, why }: DraftStep): StepForm => ({
  activityId,
  title,
  minutes,
  on,
  why,
});

export interface Preview {
  readonly subject: string;
  readonly doc: MessageDoc;
  readonly holes: readonly MergeField[];
}

/**
 * What one recipient would read; the next step is that of the plan as edited.
 *
 * @param holds whether the condition of a paragraph holds of them
 */
export function previewFor(
  { subject, doc }: TextForm,
  values: MergeValues,
  steps: readonly DraftStep[] | null,
  holds: (where: Selection) => boolean,
): Preview {
  const own = steps?.[0] ? { ...values, 'next step': steps[0].title } : values;
  const head = render(parseTemplate(subject).parts, own);
  const filled = fillDoc(doc, own, holds);
  return { subject: head.text, doc: filled.doc, holes: [...head.holes, ...filled.holes] };
}

/** Those who get the same text: they were selected for the same. */
export interface Block {
  readonly key: string;
  readonly about: About;
  readonly activityId: number | null;
  readonly item: string | null;
  /** Why they were selected, in words. */
  readonly reason: string;
  readonly ids: readonly number[];
}

/** Recipients by what they were selected for, each a block with a text of its own; or all in one. */
export function blocksOf(recipients: readonly ComposeRecipient[], asOne: boolean): Block[] {
  const keyOf = ({ picked: { about, activityId, item } }: ComposeRecipient) =>
    asOne ? 'all' : `${about} ${activityId ?? ''}${item == null ? '' : ` ${item}`}`;
  return [...groupBy(recipients, keyOf)].map(([key, list]) => {
    const { about, activityId, item } = list[0]!.picked;
    const same = list.every(
      ({ picked: p }) => p.about === about && p.activityId === activityId && p.item === item,
    );
    return {
      key,
      about: same ? about : 'other',
      activityId: same ? activityId : null,
      item: same ? item : null,
      reason: [...new Set(list.map((r) => r.picked.reason))].join('; ').slice(0, 300),
      ids: list.map((r) => r.enrolmentId),
    };
  });
}

/** What a block is called: why its students were selected, or what it is about where others were for the same. */
export function blockLabel(block: Block, all: readonly Block[]): string {
  if (all.some((b) => b !== block && b.reason === block.reason))
    return block.about === 'other' ? 'no open flag' : block.about;
  return block.reason.length > 40 ? `${block.reason.slice(0, 38)} …` : block.reason;
}

/** "Covers 3 of 9 missing assignments." of a plan; nothing where nothing is missing. */
export function coverWords(
  steps: readonly Pick<DraftStep, 'activityId'>[],
  missing: readonly number[],
): string {
  if (missing.length === 0) return '';
  const covered = missing.filter((id) => steps.some((s) => s.activityId === id)).length;
  return `Covers ${covered} of ${counted(missing.length, 'missing assignment')}.`;
}

/** A step to be worded: of an activity, or of one's own. */
export const newStep = (
  activity: { readonly id: string; readonly title: string; readonly minutes: Minutes } | null,
  on: LocalDate,
): DraftStep => ({
  key: `new-${crypto.randomUUID()}`,
  activityId: activity ? Number(activity.id) : null,
  title: activity?.title ?? 'Come to the next office hour',
  minutes: activity?.minutes ?? 20,
  on,
  why: '',
});
