'use client';
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { passingAction } from '@/actions/followUps';
import type { PassingForm } from '@/core/forms/note';
import { say } from '../parts/say';
import { addWaiting, dropWaiting, onWaiting, waitingNotes } from './waiting';

const NONE: readonly PassingForm[] = [];
/** A note that got no answer is tried again after so long. */
const AGAIN_MS = 15_000;

/**
 * Keeps notes on the device before they are sent, and sends them one by one: at once, when the network comes back, and
 * when the page is opened again. A note leaves the device once the server has it; what the server refuses is said, and
 * stays until it is removed.
 */
export function usePassing(code: string) {
  const waiting = useSyncExternalStore(
    onWaiting,
    () => waitingNotes(code),
    () => NONE,
  );
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const busy = useRef(false);
  const noted = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const flush = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    clearTimeout(timer.current);
    try {
      for (;;) {
        const next = waitingNotes(code).find((n) => !noted.current.has(n.key));
        if (!next || !navigator.onLine) return;
        const outcome = await passingAction({ code, ...next });
        if (outcome.ok) {
          dropWaiting(code, next.key);
          say.success('Saved.');
        } else {
          noted.current.add(next.key);
          setRefused((all) => new Map(all).set(next.key, outcome.message));
        }
      }
    } catch {
      // No network after all, or a server that is away: the note stays, and is tried again.
      timer.current = setTimeout(() => void flush(), AGAIN_MS);
    } finally {
      busy.current = false;
    }
  }, [code]);

  useEffect(() => {
    const again = () => void flush();
    window.addEventListener('online', again);
    return () => {
      window.removeEventListener('online', again);
      clearTimeout(timer.current);
    };
  }, [flush]);
  useEffect(() => {
    void flush();
  }, [flush, waiting]);

  return {
    waiting,
    refused,
    keep: (note: PassingForm) => addWaiting(code, note),
    drop: (key: string) => dropWaiting(code, key),
  };
}
