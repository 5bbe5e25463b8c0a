import type { Selection } from '../rules/selection';

/** How the parts of a group are joined. */
export type Joining = 'all' | 'any';

export const joiningOf = (where: Selection): Joining | null =>
  'all' in where ? 'all' : 'any' in where ? 'any' : null;

export const partsOf = (where: Selection): readonly Selection[] =>
  'all' in where ? where.all : 'any' in where ? where.any : [];

export const group = (how: Joining, parts: readonly Selection[]): Selection =>
  how === 'all' ? { all: parts } : { any: parts };

/** A part without its "not", and whether it has one. */
export const bare = (part: Selection): { readonly part: Selection; readonly not: boolean } =>
  'not' in part ? { part: part.not, not: true } : { part, not: false };

export const negated = (part: Selection, not: boolean): Selection => (not ? { not: part } : part);
