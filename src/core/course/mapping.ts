import { FILE_KINDS, type FileKind } from './records';

/** What a row of a foreign file is: a record of one of our files, or a student with a column a work or an item. */
export const SHAPES = [...FILE_KINDS, 'wide scores', 'wide responses'] as const;
export type Shape = (typeof SHAPES)[number];

/** The file that rows of a shape become. */
export const kindOfShape = (shape: Shape): FileKind =>
  shape === 'wide scores' ? 'gradebook' : shape === 'wide responses' ? 'responses' : shape;

/** The order of day, month and year in a source that does not write them as ISO 8601 says. */
export const DAY_ORDERS = ['year first', 'day first', 'month first'] as const;
export type DayOrder = (typeof DAY_ORDERS)[number];

/** Which part of a cell is meant, where a source writes a whole name in one. */
export const NAME_PARTS = ['all', 'given', 'family'] as const;
export type NamePart = (typeof NAME_PARTS)[number];

/** Where one of our columns comes from: a column of the source, or one text for every row. */
export type FieldSource =
  | { readonly from: 'column'; readonly column: string; readonly part: NamePart }
  | { readonly from: 'text'; readonly text: string };

/** How a foreign CSV file becomes one of ours. */
export interface Mapping {
  readonly shape: Shape;
  /** By our column; a column that is not named stays out. */
  readonly fields: Readonly<Record<string, FieldSource>>;
  /** The source's columns that hold one work or item each, and the id of that work or item. */
  readonly spread: { readonly column: string; readonly to: string }[];
  readonly days: DayOrder;
  /** The zone of times that do not carry one. */
  readonly zone: string;
  /** What the words of a source mean in our columns of fixed words, by column and lower-case word. */
  readonly words: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

/** The columns of a source that a mapping reads. */
export function columnsUsed(mapping: Mapping): string[] {
  const named = Object.values(mapping.fields).flatMap((f) => (f.from === 'column' ? [f.column] : []));
  return [...new Set([...named, ...mapping.spread.map((s) => s.column)])];
}

/**
 * The mapping that fits a header, of those saved: all its columns are there, and of several the one that reads most of
 * them, the earlier of equals. Null if none fits.
 */
export function fitting<M extends { readonly mapping: Mapping }>(
  saved: readonly M[],
  header: readonly string[],
): M | null {
  const has = new Set(header);
  let best: M | null = null;
  let most = 0;
  for (const candidate of saved) {
    const used = columnsUsed(candidate.mapping);
    if (used.length > most && used.every((c) => has.has(c))) {
      best = candidate;
      most = used.length;
    }
  }
  return best;
}
