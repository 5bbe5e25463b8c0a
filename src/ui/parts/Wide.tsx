'use client';
import type { ReactNode } from 'react';
import { useNarrow } from './useNarrow';

/** What may be wider than a phone: it scrolls for itself, by keyboard too, and the page stays as it is. */
export function Wide({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  const narrow = useNarrow();
  return (
    <div
      className="relative overflow-x-auto"
      {...(narrow ? { tabIndex: 0, role: 'region', 'aria-label': label } : {})}
    >
      {children}
    </div>
  );
}
