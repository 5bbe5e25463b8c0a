'use client';
import { useState } from 'react';
import { removeAction } from '@/actions/setup';
import type { Outcome } from '@/actions/run';
import { useAct } from '../parts/useAct';

/** Said of a change that others rely on. */
export const PROPOSED = '. What others rely on was proposed: whoever runs the installation decides';

/** A part of the set-up while it is edited in its sheet: what is typed, and how it is saved and taken away. */
export function useEdited<F extends { readonly id: number | null }, T>(
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
    readonly save: (form: F) => Promise<Outcome<T>>;
    /** More to say once it is saved. */
    readonly done?: (value: T) => string;
    readonly onClose: () => void;
  },
) {
  const [form, setForm] = useState(start);
  const { busy, act } = useAct();
  const { id } = form;
  return {
    form,
    set: (more: Partial<F>) => setForm({ ...form, ...more }),
    act,
    /** What its sheet needs to know. */
    sheet: {
      busy,
      onClose,
      onSave: () =>
        act(() => save(form), {
          done: (value) => `${id == null ? 'Added' : 'Saved'}${done?.(value) ?? ''}`,
          then: onClose,
        }),
      onRemove:
        id == null || what == null
          ? undefined
          : () => act(() => removeAction({ code, what, id }), { done: 'Taken away', then: onClose }),
    },
  };
}
