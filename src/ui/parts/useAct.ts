'use client';
import { useTransition } from 'react';
import type { Outcome } from '@/actions/run';
import { say } from './say';

interface ActOptions<T> {
  /** Said when it is done; a function may use the answer. */
  readonly done?: string | ((value: T) => string);
  /** Offered beside it. */
  readonly undo?: (value: T) => void;
  /** The undo where only the answer tells whether there is one. */
  readonly undoable?: (value: T) => (() => void) | undefined;
  readonly then?: (value: T) => void;
  /** For a form of something stored: what is saved, and how it is saved over what others saved meanwhile. */
  readonly edit?: { readonly mine: object; readonly over: (theirs: object) => Promise<Outcome<T>> };
}

/** The one way to act: runs an action, says how it went, offers the undo. A failure keeps what was typed. */
export function useAct() {
  const [busy, start] = useTransition();
  function act<T>(action: () => Promise<Outcome<T>>, options: ActOptions<T> = {}): void {
    start(async () => {
      try {
        const outcome = await action();
        if (!outcome.ok) {
          const { edit } = options;
          const { theirs } = outcome;
          if (!edit || !theirs) return say.error(outcome.message);
          const { showConflict } = await import('./Conflict');
          showConflict({
            theirs,
            mine: edit.mine,
            onMine: () => act(() => edit.over(theirs), { ...options, undo: undefined }),
          });
          return;
        }
        const { done } = options;
        const undo = options.undo ? () => options.undo!(outcome.value) : options.undoable?.(outcome.value);
        if (done) {
          say.success(typeof done === 'string' ? done : done(outcome.value), undo);
        }
        options.then?.(outcome.value);
      } catch {
        // It may have been done all the same: only the answer is known to be lost.
        say.error('No answer came from the server. Reload the page to see whether it was done.');
      }
    });
  }
  return { busy, act };
}
