/** What a row is sorted by; null is what is not known. */
export type RowKey<R> = (row: R) => string | number | null;

const collator = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** Orders two values that are known, texts as people sort them. */
export const compareValues = (x: string | number, y: string | number): number =>
  typeof x === 'number' && typeof y === 'number'
    ? // By comparison: the difference of two infinite numbers is none.
      Number(x > y) - Number(x < y)
    : collator.compare(String(x), String(y));

/** Orders rows by a key; what is not known comes last either way. */
export const compareRows =
  <R>(key: RowKey<R>, down: boolean) =>
  (a: R, b: R): number => {
    const [x, y] = [key(a), key(b)];
    if (x == null || y == null) return x == null ? (y == null ? 0 : 1) : -1;
    const order = compareValues(x, y);
    return down ? 0 - order : order;
  };
