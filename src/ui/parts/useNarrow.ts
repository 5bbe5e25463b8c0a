'use client';
import { useSyncExternalStore } from 'react';

// The width at which Tailwind's `sm` begins.
const QUERY = '(width < 40rem)';

const subscribe = (onChange: () => void): (() => void) => {
  const list = window.matchMedia(QUERY);
  list.addEventListener('change', onChange);
  return () => list.removeEventListener('change', onChange);
};

/** Whether the window is as narrow as a phone; no until the page is awake. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(QUERY).matches,
    () => false,
  );
