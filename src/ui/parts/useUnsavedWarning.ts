'use client';
import { useEffect } from 'react';

/** Lets the browser ask before a page with something that is not saved is closed. */
export function useUnsavedWarning(unsaved: boolean): void {
  useEffect(() => {
    if (!unsaved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [unsaved]);
}
