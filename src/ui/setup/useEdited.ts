'use client';
import type { FieldValues } from 'react-hook-form';
import type * as yup from 'yup';
import { removeAction } from '@/actions/setup';
import type { Outcome } from '@/actions/run';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

/** Said of a change that others rely on. */
export const PROPOSED = '. What others rely on was proposed: whoever runs the installation decides';

/** A part of the set-up while it is edited in its sheet: what is typed, and how it is saved and taken away. */
export function useEdited<F extends FieldValues & { id: number | null }, T>(
  load: () => Promise<yup.ObjectSchema<F>>,
  start: F,
  {
    code,
    what,
    save,
    done,
    onClose,
  }: {
    readonly code: string;
    /** What the part is called where it is taken away; nothing if it cannot be from here. */
    readonly what?: Parameters<typeof removeAction>[0]['what'];
    /** Saves it, unless others have changed it since it was opened. */
    readonly save: (form: F, was: object | null) => Promise<Outcome<T>>;
    /** More to say once it is saved. */
    readonly done?: (value: T) => string;
    readonly onClose: () => void;
  },
) {
  const form = useYupForm(load, start);
  const { busy, act } = useAct();
  const { id } = start;
  return {
    form,
    control: form.control,
    act,
    /** What its sheet needs to know. */
    sheet: {
      busy,
      onClose,
      onSave: form.handleSubmit((values) =>
        act(() => save(values, id == null ? null : start), {
          edit: { mine: values, over: (theirs) => save(values, theirs) },
          done: (value) => `${id == null ? 'Added' : 'Saved'}${done?.(value) ?? ''}`,
          then: onClose,
        }),
      ),
      onRemove:
        id == null || what == null
          ? undefined
          : () => act(() => removeAction({ code, what, id }), { done: 'Deleted', then: onClose }),
    },
  };
}
