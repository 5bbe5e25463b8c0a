'use client';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useTransition } from 'react';

/** Reads and changes the address of a view; null takes a parameter out. The page stays where it is scrolled. */
export function useQuery() {
  const router = useRouter();
  const path = usePathname();
  const query = useSearchParams();
  const [moving, start] = useTransition();
  const withValues = (values: Readonly<Record<string, string | null>>) => {
    const next = new URLSearchParams(query);
    for (const [key, value] of Object.entries(values)) {
      if (value == null) next.delete(key);
      else next.set(key, value);
    }
    return `${path}?${next}`;
  };
  const change = (values: Readonly<Record<string, string | null>>) =>
    start(() => router.replace(withValues(values), { scroll: false }));
  /** For what the page can do by itself: the address changes, the server is not asked. */
  const note = (values: Readonly<Record<string, string | null>>) =>
    window.history.replaceState(null, '', withValues(values));
  return { query, change, note, moving };
}

/** The parameters that go along from view to view. */
export const SCOPE_KEYS = ['w', 'g', 'k'] as const;

/** A path with the scope of the present address. */
export function withScope(href: string, query: { get: (key: string) => string | null }): string {
  const kept = new URLSearchParams();
  for (const key of SCOPE_KEYS) {
    const value = query.get(key);
    if (value != null) kept.set(key, value);
  }
  const text = kept.toString();
  return text ? `${href}${href.includes('?') ? '&' : '?'}${text}` : href;
}
