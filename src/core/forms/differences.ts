/** A place in two versions of a form that differs, in words. */
export interface Difference {
  readonly place: string;
  readonly mine: string;
  readonly theirs: string;
}

/** `moreTime` as `more time`. */
const words = (key: string): string => key.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The texts of a document or list within one line; what has none is counted. */
function said(value: unknown): string {
  if (value == null || value === '') return 'empty';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  if (Array.isArray(value)) {
    if (value.length === 0) return 'none';
    return value.every((v) => typeof v !== 'object') ? value.join(', ') : value.map(said).join('; ');
  }
  if (!isRecord(value)) return '';
  if (typeof value.text === 'string') return value.text;
  if (Array.isArray(value.content)) return value.content.map(said).join(' ');
  return Object.entries(value)
    .filter(([key]) => key !== 'id')
    .map(([key, inner]) => `${words(key)}: ${said(inner)}`)
    .join(', ');
}

/** Lists are compared place by place where they hold named things; anything else as a whole. */
function* compare(place: readonly string[], mine: unknown, theirs: unknown): Generator<Difference> {
  if (JSON.stringify(mine) === JSON.stringify(theirs)) return;
  const inside = (key: string) => [...place, key];
  if (isRecord(mine) && isRecord(theirs) && mine.type == null) {
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)]))
      if (key in theirs) yield* compare(inside(words(key)), mine[key], theirs[key]);
    return;
  }
  const isListOfThings = (list: unknown): list is readonly unknown[] =>
    Array.isArray(list) && list.length > 0 && list.every(isRecord);
  if (isListOfThings(mine) && isListOfThings(theirs)) {
    for (let i = 0; i < Math.max(mine.length, theirs.length); i++)
      yield* compare(inside(String(i + 1)), mine[i], theirs[i]);
    return;
  }
  yield { place: place.join(' '), mine: said(mine), theirs: said(theirs) };
}

/**
 * What differs between one's own version of a form and what others saved meanwhile, place by place in words. Only what is
 * stored counts: what one's own has beside that (its id) is passed over.
 */
export const differences = (mine: object, theirs: object): Difference[] => [...compare([], mine, theirs)];
