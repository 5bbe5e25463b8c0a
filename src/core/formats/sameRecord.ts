/**
 * Whether two records hold the same, in whatever order their fields and lists are: a database gives neither back as
 * they came.
 */
export function sameRecord(a: unknown, b: unknown): boolean {
  return a != null && sorted(a) === sorted(b);
}

/** Whether two records of one shape hold the same, lists in the same order. */
export const sameFields = <T extends object>(a: T, b: T): boolean =>
  (Object.keys(a) as (keyof T)[]).every((key) =>
    Array.isArray(a[key]) ? JSON.stringify(a[key]) === JSON.stringify(b[key]) : a[key] === b[key],
  );

/** A value in one text, whatever the order of its fields and of what its lists hold. */
function sorted(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(sorted).sort().join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value) ?? 'null';
  return `{${Object.entries(value)
    .map(([k, v]: [string, unknown]) => `${JSON.stringify(k)}:${sorted(v)}`)
    .sort()
    .join(',')}}`;
}
