'use client';
import { useEffect, useRef, type FocusEvent } from 'react';

/**
 * Lets the keyboard walk through notices like through anything else. Their library sends the focus back to where it came
 * from whenever it leaves them, so that Tab could not get past a notice as long as one stands there. Only where the
 * notice that has the focus goes, the focus is given back.
 */
export function useFreeFocus() {
  const box = useRef<HTMLDivElement>(null);
  const within = useRef(false);
  const before = useRef<HTMLElement | null>(null);
  useEffect(() => {
    const watched = box.current;
    if (!watched) return;
    const observer = new MutationObserver(() => {
      if (!within.current || document.activeElement !== document.body) return;
      within.current = false;
      before.current?.focus({ preventScroll: true });
    });
    observer.observe(watched, { childList: true, subtree: true });
    return () => observer.disconnect();
  }, []);
  return {
    ref: box,
    onFocusCapture: (event: FocusEvent) => {
      event.stopPropagation();
      if (!within.current) before.current = event.relatedTarget as HTMLElement | null;
      within.current = true;
    },
    onBlurCapture: (event: FocusEvent) => {
      event.stopPropagation();
      within.current = box.current?.contains(event.relatedTarget) ?? false;
    },
  };
}
