'use client';
import { useTransition } from 'react';
import { toast } from 'sonner';
import type { Outcome } from '@/actions/run';

interface ActOptions<T> {
  /** Said when it is done; a function may use the answer. */
  readonly done?: string | ((value: T) => string);
  /** Offered beside it. */
  readonly undo?: (value: T) => void;
  /** The undo where only the answer tells whether there is one. */
  readonly undoable?: (value: T) => (() => void) | undefined;
  readonly then?: (value: T) => void;
}

/** The one way to act: runs an action, says how it went, offers the undo. A failure keeps what was typed. */
export function useAct() {
  const [busy, start] = useTransition();
  function act<T>(action: () => Promise<Outcome<T>>, options: ActOptions<T> = {}): void {
    start(async () => {
      try {
        const outcome = await action();
        if (!outcome.ok) {
          toast.error(outcome.message);
          return;
        }
        const { done } = options;
        const undo = options.undo ? () => options.undo!(outcome.value) : options.undoable?.(outcome.value);
        if (done) {
          toast.success(typeof done === 'string' ? done : done(outcome.value), {
            action: undo ? { label: 'Undo', onClick: () => undo() } : undefined,
          });
        }
        options.then?.(outcome.value);
      } catch {
        // It may have been done all the same: only the answer is known to be lost.
        toast.error('No answer came from the server. Reload the page to see whether it was done.');
      }
    });
  }
  return { busy, act };
}
