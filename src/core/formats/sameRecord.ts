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

function sorted(value: unknown): string {
  return JSON.stringify(
    Object.entries(value as object)
      .map(([k, v]: [string, unknown]) => [k, Array.isArray(v) ? [...(v as unknown[])].sort() : v])
      .sort((x, y) => (String(x[0]) < String(y[0]) ? -1 : 1)),
  );
}
