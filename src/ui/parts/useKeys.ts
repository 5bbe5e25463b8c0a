'use client';
import { useEffect, useRef } from 'react';

/** What each key does on a view. Names as in KeyboardEvent.key. */
export type KeyMap = Readonly<Record<string, () => void>>;

/** True while the keyboard belongs to something else: a field, a menu or a dialog. */
function isTaken(target: EventTarget | null): boolean {
  if (document.querySelector('[role="dialog"], [role="menu"], [role="listbox"]')) return true;
  return (
    target instanceof HTMLElement &&
    target.closest('input, textarea, select, [contenteditable="true"]') != null
  );
}

/** Listens for single keys on the whole page, never while somebody types or a dialog is open. */
export function useKeys(keys: KeyMap): void {
  const current = useRef(keys);
  useEffect(() => {
    current.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTaken(event.target))
        return;
      const action = current.current[event.key];
      if (!action) return;
      // Enter and space on a focused button or link are that button's.
      const onControl =
        event.target instanceof HTMLElement && event.target.closest('button, a, summary') != null;
      if (onControl && (event.key === 'Enter' || event.key === ' ')) return;
      event.preventDefault();
      action();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
