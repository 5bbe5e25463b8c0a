const BROWSERS = [
  ['Edg', 'Edge'],
  ['OPR', 'Opera'],
  ['Firefox', 'Firefox'],
  ['Chrome', 'Chrome'],
  ['Safari', 'Safari'],
] as const;
const SYSTEMS = [
  ['iPhone', 'iPhone'],
  ['iPad', 'iPad'],
  ['Android', 'Android'],
  ['Windows', 'Windows'],
  ['Mac OS', 'Mac'],
  ['CrOS', 'Chromebook'],
  ['Linux', 'Linux'],
] as const;

/** What a browser says of itself (User-Agent, RFC 9110 section 10.1.5) in two words: "Firefox on Windows". */
export function deviceWords(userAgent: string | null): string {
  const found = (list: readonly (readonly [string, string])[]) =>
    list.find(([mark]) => userAgent?.includes(mark))?.[1];
  const [browser, system] = [found(BROWSERS), found(SYSTEMS)];
  if (browser && system) return `${browser} on ${system}`;
  return browser ?? system ?? 'Unknown device';
}
