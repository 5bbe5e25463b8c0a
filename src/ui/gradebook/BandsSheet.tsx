'use client';
import { useState } from 'react';
import { bandsAction } from '@/actions/grading';
import type { ScoreBands } from '@/core/gradebook/bands';
import { Button } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';

const KINDS = [
  { key: 'practice', label: 'Practice' },
  { key: 'other', label: 'Everything else' },
] as const;

const ENDS = [
  { end: 'low', label: 'Low up to' },
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
  const [draft, setDraft] = useState(bands);
  const set = (kind: keyof ScoreBands, end: 'low' | 'high', text: string) =>
    setDraft({ ...draft, [kind]: { ...draft[kind], [end]: text === '' ? NaN : Number(text) } });
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Score bands"
      description="In per cent of full points. Low is at or below the first, high at or above the second."
    >
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault();
          act(() => bandsAction({ code, bands: draft }), { done: 'The bands are saved.', then: onClose });
        }}
      >
        {KINDS.map(({ key, label }) => {
          const wrong = !(draft[key].low < draft[key].high);
          return (
            <fieldset key={key}>
              <legend className="font-semibold">{label}</legend>
              <div className="mt-1 flex gap-3">
                {ENDS.map(({ end, label: name }) => (
                  <Field
                    key={end}
                    label={name}
                    error={wrong && end === 'low' ? 'Has to be below the other.' : undefined}
                    className="flex-1"
                  >
                    {(ids) => (
                      <TextInput
                        {...ids}
                        type="number"
                        min={0}
                        max={100}
                        step="any"
                        value={Number.isNaN(draft[key][end]) ? '' : draft[key][end]}
                        onChange={(e) => set(key, end, e.target.value)}
                      />
                    )}
                  </Field>
                ))}
              </div>
            </fieldset>
          );
        })}
        <Button
          type="submit"
          look="main"
          disabled={busy || KINDS.some(({ key }) => !(draft[key].low < draft[key].high))}
        >
          Save
        </Button>
      </form>
    </Sheet>
  );
}
