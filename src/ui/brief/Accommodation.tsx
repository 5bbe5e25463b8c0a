'use client';
import { accommodationAction } from '@/actions/plans';
import type { AccommodationForm } from '@/core/forms/give';
import { Button } from '../parts/Button';
import { NumberField } from '../parts/fields';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/give').then((m) => m.accommodationForm);

/** What a student gets beyond the others: more time for what is assigned to them, and being read to. */
export function Accommodation({
  code,
  start,
  onClose,
}: {
  readonly code: string;
  readonly start: AccommodationForm;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const { control, register, handleSubmit } = useYupForm(loadForm, start);
  const save = (form: AccommodationForm) =>
    act(() => accommodationAction({ code, form, was: start }), {
      edit: { mine: form, over: (was) => accommodationAction({ code, form, was }) },
      done: 'Saved. What is assigned from now on follows it.',
      then: onClose,
      undo: (before) =>
        act(() => accommodationAction({ code, form: { ...form, ...before }, was: form }), {
          done: 'As it was.',
        }),
    });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Accommodations"
      description="What is assigned to them from now on follows it."
    >
      <form
        noValidate
        className="flex flex-wrap items-end gap-4"
        onSubmit={(e) => void handleSubmit(save)(e)}
      >
        <NumberField control={control} name="moreTime" label="More time, in per cent" className="w-48" />
        <label className="flex items-center gap-2 pb-1.5 max-sm:min-h-11">
          <input type="checkbox" className="accent-teal size-4" {...register('readAloud')} />
          Items can be read aloud
        </label>
        <Button type="submit" disabled={busy}>
          Save
        </Button>
      </form>
    </Sheet>
  );
}
