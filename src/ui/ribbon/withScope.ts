/** The parameters that go along from view to view. */
const SCOPE_KEYS = ['w', 'g', 'k'] as const;

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
