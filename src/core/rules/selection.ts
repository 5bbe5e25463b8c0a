import { contrary, joined, judgedBefore, verdictsOf, type Judge, type Verdict } from './kleene';
import { placed } from './place';

/** A value that a column is compared with: with a number as a number, with text as it stands. */
export type Compared = string | number;

/** What students of a table are selected by. `measure` names a column. */
export type Selection =
  | { readonly all: readonly Selection[] }
  | { readonly any: readonly Selection[] }
  | { readonly not: Selection }
  | ColumnTest;

export type ColumnTest = { readonly measure: string } & (
  | { readonly is: '<' | '<=' | '>' | '>='; readonly value: number }
  | { readonly is: '='; readonly value: Compared }
  | { readonly is: 'in'; readonly value: readonly Compared[] }
  /** Both ends included. */
  | { readonly is: 'between'; readonly value: number; readonly to: number }
  | { readonly is: 'known' }
  | { readonly is: 'lowest' | 'highest'; readonly percent: number; readonly after?: number }
);

/** A column of a table: its cells as they stand, and as numbers; null where a cell is empty, or no number. */
export interface SelectColumn {
  readonly texts: readonly (string | null)[];
  readonly numbers: readonly (number | null)[];
}

/** The tests in a selection, one after the other. */
export function testsIn(selection: Selection): ColumnTest[] {
  if ('all' in selection) return selection.all.flatMap(testsIn);
  if ('any' in selection) return selection.any.flatMap(testsIn);
  return 'not' in selection ? testsIn(selection.not) : [selection];
}

/** Whether a test takes its column for numbers: then every cell that is not empty has to be one. */
export const needsNumbers = ({ is }: ColumnTest): boolean => is !== '=' && is !== 'in' && is !== 'known';

/**
 * Judges a selection of every row of a table, in their order, by Kleene's three-valued logic. An empty cell is not
 * known; only “known” always is.
 *
 * @param columnOf finds a column by its name
 */
export const select = (
  selection: Selection,
  columnOf: (name: string) => SelectColumn,
  rows: number,
): Verdict[] => verdictsOf(judgeOf(selection, columnOf), rows);

function judgeOf(selection: Selection, columnOf: (name: string) => SelectColumn): Judge {
  if ('all' in selection)
    return joined(
      'all',
      selection.all.map((part) => judgeOf(part, columnOf)),
    );
  if ('any' in selection)
    return joined(
      'any',
      selection.any.map((part) => judgeOf(part, columnOf)),
    );
  if ('not' in selection) return contrary(judgeOf(selection.not, columnOf));
  return testOf(selection, columnOf(selection.measure));
}

function testOf(test: ColumnTest, { texts, numbers }: SelectColumn): Judge {
  const same = (value: Compared, row: number): boolean => {
    const own = numbers[row] ?? null;
    return typeof value === 'number' && own != null ? own === value : texts[row] === String(value);
  };
  switch (test.is) {
    case '<':
    case '<=':
    case '>':
    case '>=':
      return comparing(test.is, numbers, test.value);
    case 'between':
      return joined('all', [comparing('>=', numbers, test.value), comparing('<=', numbers, test.to)]);
    case '=':
      return (row) => (texts[row] == null ? null : same(test.value, row));
    case 'in': {
      // Made once for all rows: a list may be long.
      const among = new Set(test.value);
      const asText = new Set(test.value.map(String));
      return (row) => {
        const [text, own] = [texts[row] ?? null, numbers[row] ?? null];
        if (text == null) return null;
        return own == null ? asText.has(text) : among.has(text) || among.has(own);
      };
    }
    case 'known':
      return (row) => texts[row] != null;
    case 'lowest':
    case 'highest':
      return judgedBefore(placed(numbers, test.is, test.percent, test.after));
  }
}

/** Numbers against a number. Each way has a function of its own: it is asked for every student, and so runs apart. */
function comparing(is: '<' | '<=' | '>' | '>=', numbers: readonly (number | null)[], than: number): Judge {
  switch (is) {
    case '<':
      return (row) => {
        const value = numbers[row];
        return value == null ? null : value < than;
      };
    case '<=':
      return (row) => {
        const value = numbers[row];
        return value == null ? null : value <= than;
      };
    case '>':
      return (row) => {
        const value = numbers[row];
        return value == null ? null : value > than;
      };
    case '>=':
      return (row) => {
        const value = numbers[row];
        return value == null ? null : value >= than;
      };
  }
}
