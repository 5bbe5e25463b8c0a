import type { Instant } from '../units';

/** What a cell of an exported table holds: its type is kept where the format can. */
export type SheetCell = string | number | null | { readonly at: Instant };

/** A table to be handed out: what stood on screen, in its order. */
export interface SheetTable {
  /** For the file's name and the sheet's tab. */
  readonly name: string;
  /** What it shows, said in the file: course, window, group, filter. */
  readonly about: readonly (readonly [string, string])[];
  readonly head: readonly string[];
  readonly rows: readonly (readonly SheetCell[])[];
  readonly zone: string;
}
