type QueryValue = string | string[] | undefined;

/** The value of a query parameter; the first if there are several. */
export const oneOf = (value: QueryValue): string | undefined => (Array.isArray(value) ? value[0] : value);

/** A positive whole number from an address; undefined for anything else. */
export function wholeNumber(value: QueryValue): number | undefined {
  const text = oneOf(value);
  return text && /^\d{1,9}$/.test(text) ? Number(text) : undefined;
}
