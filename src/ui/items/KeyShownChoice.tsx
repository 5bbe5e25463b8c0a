'use client';
import { keyShownAction } from '@/actions/items';
import type { KeyShown } from '@/core/items/disclosure';
import { Choose } from '../parts/Choose';
import { useAct } from '../parts/useAct';

const CHOICES: readonly { readonly value: KeyShown; readonly label: string; readonly means: string }[] = [
  {
    value: 'closed',
    label: 'when no one can submit anymore',
    means: 'Extensions and extra attempts count too.',
  },
  {
    value: 'attempt',
    label: 'after each attempt',
    means: 'Good for practice. Students who are done can tell the others the answers.',
  },
  {
    value: 'now',
    label: 'now',
    means: 'Everyone who has answered sees the key and explanations, even if others can still submit.',
  },
];

/** When students see the answers of a quiz, and what follows from it. */
export function KeyShownChoice({
  code,
  quiz,
}: {
  readonly code: string;
  readonly quiz: { readonly id: number; readonly keyShown: KeyShown };
}) {
  const { busy, act } = useAct();
  const set = (shown: KeyShown) =>
    act(() => keyShownAction({ code, activityId: quiz.id, shown }), {
      done: 'Saved.',
      undo: (before) =>
        act(() => keyShownAction({ code, activityId: quiz.id, shown: before }), { done: 'Undone.' }),
    });
  return (
    <p className="no-print mb-2 flex flex-wrap items-center gap-2 text-[13px]">
      <span>Students see the key and explanations</span>
      <Choose
        label="When students see the key"
        small
        className="w-56"
        disabled={busy}
        value={quiz.keyShown}
        options={CHOICES}
        onChange={set}
      />
      <span className="text-muted">{CHOICES.find((c) => c.value === quiz.keyShown)!.means}</span>
    </p>
  );
}
