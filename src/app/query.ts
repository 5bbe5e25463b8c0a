type QueryValue = string | string[] | undefined;

/** The value of a query parameter; the first if there are several. */
export const oneOf = (value: QueryValue): string | undefined => (Array.isArray(value) ? value[0] : value);

/** A positive whole number from an address; undefined for anything else. */
export function wholeNumber(value: QueryValue): number | undefined {
  const text = oneOf(value);
  return text && /^\d{1,9}$/.test(text) ? Number(text) : undefined;
}

/** An instant in milliseconds from an address; undefined for anything else. */
export function wholeInstant(value: QueryValue): number | undefined {
  const text = oneOf(value);
  return text && /^\d{1,14}$/.test(text) ? Number(text) : undefined;
}

export type Query = Record<string, QueryValue>;

export interface PageProps<P> {
  readonly params: Promise<P>;
  readonly searchParams: Promise<Query>;
}

/** Window, group and kind as the address has them; the server checks what they mean. */
export const askedScope = (query: Query) => ({
  w: oneOf(query.w),
  g: oneOf(query.g),
  k: oneOf(query.k),
});
