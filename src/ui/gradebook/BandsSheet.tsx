'use client';
import { useState } from 'react';
import { bandsAction } from '@/actions/grading';
import type { ScoreBands } from '@/core/gradebook/bands';
import { Button } from '../parts/Button';
import { NumberField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadBandsForm = () => import('@/core/forms/settings').then((m) => m.bandsForm);

const KINDS = [
  { key: 'practice', label: 'Practice' },
  { key: 'other', label: 'Everything else' },
] as const;

const ENDS = [
  { end: 'low', label: 'Low under' },
  { end: 'high', label: 'High from' },
] as const;

/** Where low scores end and high ones begin, for practice and for the rest. */
export function BandsSheet({
  code,
  bands,
  onClose,
}: {
  readonly code: string;
  readonly bands: ScoreBands;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const [opened] = useState(bands);
  const { control, handleSubmit } = useYupForm(loadBandsForm, bands);
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Score bands"
      description="In per cent of full points. Low is under the first, high is the second and above."
    >
      <form
        className="space-y-4"
        onSubmit={handleSubmit((values) =>
          act(() => bandsAction({ code, bands: values, was: opened }), {
            done: 'The bands are saved.',
            then: onClose,
            edit: { mine: values, over: (was) => bandsAction({ code, bands: values, was }) },
          }),
        )}
      >
        {KINDS.map(({ key, label }) => (
          <fieldset key={key}>
            <legend className="font-semibold">{label}</legend>
            <div className="mt-1 flex gap-3">
              {ENDS.map(({ end, label: name }) => (
                <NumberField
                  key={end}
                  control={control}
                  name={`${key}.${end}`}
                  label={name}
                  className="flex-1"
                />
              ))}
            </div>
          </fieldset>
        ))}
        <Button type="submit" look="main" disabled={busy}>
          Save
        </Button>
      </form>
    </Sheet>
  );
}
